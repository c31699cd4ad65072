import type { IncomingMessage } from 'node:http';
import { bodyParser } from '@koa/bodyparser';
import { MAX_JSON_BYTES } from '@yard-brace/contract';
import { issueSentence } from '@yard-brace/core';
import type { Context, Middleware } from 'koa';
import type * as z from 'zod';
import { HttpProblem } from './problems.js';
import { Slots } from './slots.js';

/** A request larger than this, or that does not say its length, is read when one of few places is free. */
const LARGE_JSON_BYTES = 2 ** 20;
const LARGE_BODIES = new Slots(2);
/** What no piece nests as deep as; parsing more holds the server up for seconds. */
const DEEPEST_JSON = 64;

/** The bytes of a request; leaving the loop early leaves the connection open for the answer. */
export const bodyOf = (request: IncomingMessage): AsyncIterable<Buffer> => ({
  [Symbol.asyncIterator]: () => request.iterator({ destroyOnReturn: false }),
});

/** The request's JSON as text, not parsed yet. @throws HttpProblem when it is too long or nests too deep */
export async function receiveText(ctx: Context): Promise<string> {
  const length = Number(ctx.headers['content-length'] ?? Infinity);
  if (Number.isFinite(length) && length > MAX_JSON_BYTES) throw tooLong();
  if (length > LARGE_JSON_BYTES) {
    // Not read before its turn: twenty large pieces at once take the memory of two.
    const release = await LARGE_BODIES.take();
    ctx.res.once('close', release);
    if (ctx.res.closed) release();
  }
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of bodyOf(ctx.req)) {
    bytes += chunk.length;
    if (bytes > MAX_JSON_BYTES) throw tooLong();
    chunks.push(chunk);
  }
  const body = Buffer.concat(chunks);
  if (depthOf(body) > DEEPEST_JSON)
    throw new HttpProblem(
      'bad-request',
      `The request nests deeper than ${DEEPEST_JSON} levels; no piece does.`,
    );
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body);
  } catch {
    throw new HttpProblem('bad-request', 'The request holds bytes that are no UTF-8; send it again.');
  }
}

/** Parses the JSON of a request that carries no piece, whatever type it says it has. */
export const json: Middleware = bodyParser({
  enableTypes: ['json'],
  detectJSON: () => true,
  jsonLimit: LARGE_JSON_BYTES,
  jsonStrict: false,
  onError: (error) => {
    if ('status' in error && error.status === 413)
      throw new HttpProblem(
        'too-large',
        `The request is larger than ${LARGE_JSON_BYTES / 2 ** 20} MB; send less.`,
      );
    throw noJson();
  },
});

/** What `json` parsed, checked. @throws HttpProblem with one sentence that names the place */
export const received = <T extends z.ZodType>(ctx: Context, schema: T): z.infer<T> =>
  checked(schema, ctx.request.body);

/** A request that carries whole pieces, checked. @throws HttpProblem with one sentence that names the place */
export async function receiveWhole<T extends z.ZodType>(ctx: Context, schema: T): Promise<z.infer<T>> {
  const text = await receiveText(ctx);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw noJson();
  }
  return checked(schema, value);
}

const noJson = () => new HttpProblem('bad-request', 'The request is no JSON; send it again.');

/** A number or name from the address, checked. */
export function checked<T extends z.ZodType>(schema: T, value: unknown): z.infer<T> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw new HttpProblem('bad-request', issueSentence(result.error.issues[0]!));
}

/** Answer with a value that keeps the contract; a value that does not is a fault of ours. */
export function answer<T extends z.ZodType>(ctx: Context, schema: T, value: z.input<T>, status = 200): void {
  ctx.status = status;
  ctx.body = schema.parse(value);
}

const tooLong = () =>
  new HttpProblem(
    'too-large',
    `The request is larger than ${MAX_JSON_BYTES / 2 ** 20} MB; remove parts, shapes or undo steps.`,
  );

/** How deep brackets nest outside of texts. */
function depthOf(json: Uint8Array): number {
  let depth = 0;
  let deepest = 0;
  let inText = false;
  for (let i = 0; i < json.length; i++) {
    const c = json[i]!;
    if (inText) {
      if (c === 0x5c) i++;
      else if (c === 0x22) inText = false;
    } else if (c === 0x22) inText = true;
    else if (c === 0x5b || c === 0x7b) deepest = Math.max(deepest, ++depth);
    else if (c === 0x5d || c === 0x7d) depth--;
  }
  return deepest;
}
