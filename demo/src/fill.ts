import { routes, yardListSchema, yardSchema } from '@yard-brace/contract';
import { blobId, memoryFile, meshNameFrom, readFile, setApart, startHistory, takeIn } from '@yard-brace/core';
import { SAMPLE_YARD, samplePieces } from './sample-yard.js';

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
  for (const { name, files } of await samplePieces()) {
    say(`Importing ${name} …`);
    const [main, ...beside] = files.map((file) => memoryFile(file.name, file.bytes));
    const { scene, proxies, aside } = setApart(await readFile(main!, beside));
    const sources = files.map((file) => ({
      name: file.name,
      blob: blobId(file.bytes),
      bytes: file.bytes.length,
    }));
    const { document, blobs } = takeIn(scene, {
      proxies,
      aside,
      files: sources,
      name,
      meshName: meshNameFrom,
    });
    files.forEach((file, i) => blobs.set(sources[i]!.blob, file.bytes));
    for (const [id, bytes] of blobs) await call(address, 'PUT', routes.blob(id), bytes);
    await call(
      address,
      'POST',
      routes.yardPieces(yard.id),
      JSON.stringify({ history: startHistory(document) }),
    );
  }
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
