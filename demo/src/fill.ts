import { addedSchema, routes, yardListSchema, yardSchema } from '@yard-brace/contract';
import { startHistory } from '@yard-brace/core';
import { sampleSetOut } from './sample-set-out.js';
import { SAMPLE_YARD } from './sample-yard.js';
import { takenPieces } from './taken-pieces.js';

export interface FillOptions {
  say?: (text: string) => void;
  /** an earlier filling was broken off: what it left is removed first */
  again?: boolean;
}

/** Bring the sample yard into a server that has no yards, as a person's files come in. False when it has some. */
export async function fillSampleYard(
  address: string,
  { say = () => undefined, again = false }: FillOptions = {},
): Promise<boolean> {
  const yards = yardListSchema.parse(await call(address, 'GET', routes.yards));
  const broken = again ? yards.filter((yard) => yard.name === SAMPLE_YARD) : [];
  for (const yard of broken) await call(address, 'DELETE', routes.yard(yard.id));
  if (yards.length > broken.length) return false;
  const yard = yardSchema.parse(
    await call(address, 'POST', routes.yards, JSON.stringify({ name: SAMPLE_YARD })),
  );
  const numbers = new Map<string, number>();
  for await (const { document, blobs } of takenPieces(say)) {
    for (const [id, bytes] of blobs) await call(address, 'PUT', routes.blob(id), bytes);
    const body = JSON.stringify({ history: startHistory(document) });
    const added = addedSchema
      .pick({ id: true })
      .parse(await call(address, 'POST', routes.yardPieces(yard.id), body));
    numbers.set(document.name, added.id);
  }
  const setOut = sampleSetOut((name) => numbers.get(name)!);
  await call(address, 'POST', routes.yardSetOuts(yard.id), JSON.stringify({ setOut }));
  return true;
}

async function call(
  address: string,
  method: string,
  path: string,
  body?: string | Uint8Array,
): Promise<unknown> {
  const response = await fetch(address + path, {
    method,
    body: body as string | Uint8Array<ArrayBuffer>,
    headers: {
      'content-type': typeof body === 'string' ? 'application/json' : 'application/octet-stream',
      // A piece can take longer to read than the server keeps an idle connection.
      connection: 'close',
    },
  });
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
  return response.status === 204 ? null : response.json();
}
