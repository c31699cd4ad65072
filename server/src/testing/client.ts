import { createHash } from 'node:crypto';
import { request } from 'node:http';
import { addedSchema, type Piece, pieceSchema, routes, yardSchema } from '@yard-brace/contract';
import { type History, pushEdit } from '@yard-brace/core';
import { cratePiece } from './sample-piece.js';
import type { TestServer } from './test-server.js';

export interface Answer {
  status: number;
  json: Record<string, unknown>;
}

/** Talks to a test server as a browser does. */
export class Client {
  /** @param door headers of every request */
  constructor(
    private readonly server: Pick<TestServer, 'address'>,
    private readonly door: Record<string, string> = {},
  ) {}

  async ask(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const raw = body instanceof Uint8Array || typeof body === 'string';
    const sent = raw ? (body as Uint8Array | string) : body === undefined ? '' : JSON.stringify(body);
    const all = { ...this.door, ...headers };
    const { status, text } = await ('host' in all
      ? askedAs(this.server.address + path, { method, headers: all }, sent)
      : fetched(this.server.address + path, {
          method,
          headers: all,
          body: body === undefined ? undefined : sent,
        }));
    return {
      status,
      json: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : {},
    };
  }

  async newYard(name = 'Test yard'): Promise<number> {
    return yardSchema.parse((await this.ask('POST', routes.yards, { name })).json).id;
  }

  async store(blobs: ReadonlyMap<string, Uint8Array>): Promise<void> {
    for (const [id, bytes] of blobs) expect((await this.ask('PUT', routes.blob(id), bytes)).status).toBe(200);
  }

  async addPiece(yardId: number, name = 'Crate'): Promise<Piece> {
    const { history, blobs } = cratePiece(name);
    await this.store(blobs);
    const { id } = addedSchema.parse((await this.ask('POST', routes.yardPieces(yardId), { history })).json);
    return this.piece(id);
  }

  async piece(id: number): Promise<Piece> {
    return pieceSchema.parse((await this.ask('GET', routes.piece(id))).json);
  }
}

export const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
export const renamed = (history: History, name: string): History =>
  pushEdit(history, { kind: 'rename-mesh', name });

/** Ask again until it is so, or fail with what it is. */
export async function eventually(ask: () => Promise<number>, wanted: number): Promise<void> {
  for (let i = 0; i < 50 && (await ask()) !== wanted; i++)
    await new Promise((resolve) => setTimeout(resolve, 100));
  expect(await ask()).toEqual(wanted);
}

async function fetched(
  address: string,
  {
    body,
    ...options
  }: { method: string; headers: Record<string, string>; body: string | Uint8Array | undefined },
): Promise<{ status: number; text: string }> {
  const response = await fetch(address, { ...options, body: body as string | undefined });
  return { status: response.status, text: await response.text() };
}

/** Under another host than the address has, as a proxy asks. */
const askedAs = (
  address: string,
  options: { method: string; headers: Record<string, string> },
  body: string | Uint8Array,
): Promise<{ status: number; text: string }> =>
  new Promise((resolve, reject) => {
    const headers = { 'content-type': 'application/json', ...options.headers };
    request(address, { ...options, headers }, (response) => {
      const chunks: Buffer[] = [];
      response.on('data', (chunk: Buffer) => chunks.push(chunk));
      response.on('end', () =>
        resolve({ status: response.statusCode!, text: Buffer.concat(chunks).toString() }),
      );
    })
      .once('error', reject)
      // Headers go out in the encoding of a body that is a text.
      .end(Buffer.from(body));
  });
