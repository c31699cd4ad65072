import { addedSchema, routes, yardListSchema, yardSchema } from '@yard-brace/contract';
import {
  addProxies,
  applyEdit,
  blobId,
  memoryFile,
  meshNameFrom,
  meshReader,
  operate,
  type PieceDocument,
  readFile,
  setApart,
  startHistory,
  takeIn,
} from '@yard-brace/core';
import { MIRRORED_CORNER, SAMPLE_SHAPES, sampleSetOut } from './sample-set-out.js';
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
  const numbers = new Map<string, number>();
  const add = async (document: PieceDocument, blobs: ReadonlyMap<string, Uint8Array>) => {
    for (const [id, bytes] of blobs) await call(address, 'PUT', routes.blob(id), bytes);
    const body = JSON.stringify({ history: startHistory(document) });
    const added = addedSchema.parse(await call(address, 'POST', routes.yardPieces(yard.id), body));
    numbers.set(document.name, added.id);
  };
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
    const shapes = SAMPLE_SHAPES[name];
    await add(shapes ? applyEdit(document, addProxies(document, shapes)) : document, blobs);
    if (name === 'Quay wall corner') {
      const seen = await mirrored(document, blobs);
      await add(seen.document, seen.blobs);
    }
  }
  const setOut = sampleSetOut((name) => numbers.get(name)!);
  await call(address, 'POST', routes.yardSetOuts(yard.id), JSON.stringify({ setOut }));
  return true;
}

/** The other hand of the corner, as a piece of its own. */
async function mirrored(
  document: PieceDocument,
  blobs: ReadonlyMap<string, Uint8Array>,
): Promise<{ document: PieceDocument; blobs: Map<string, Uint8Array> }> {
  const plane = { point: document.pivot.position, normal: [1, 0, 0] as [number, number, number] };
  const done = await operate(
    document,
    { op: 'mirror', parts: [], plane, copy: false },
    meshReader(new Map(blobs)),
  );
  return {
    document: {
      ...applyEdit(document, done.edit),
      name: MIRRORED_CORNER,
      meshName: meshNameFrom(MIRRORED_CORNER),
    },
    blobs: done.blobs,
  };
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
