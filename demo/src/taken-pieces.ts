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
  takeIn,
} from '@yard-brace/core';
import { MIRRORED_CORNER, SAMPLE_SHAPES } from './sample-set-out.js';
import { samplePieces } from './sample-yard.js';

/** A piece as it comes into the sample yard, with the bytes that it names. */
export interface TakenPiece {
  document: PieceDocument;
  blobs: Map<string, Uint8Array>;
}

/** The pieces of the sample yard as they come in, with the shapes that were drawn already, and the mirrored corner. */
export async function* takenPieces(
  say: (text: string) => void = () => undefined,
): AsyncGenerator<TakenPiece> {
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
    yield { document: shapes ? applyEdit(document, addProxies(document, shapes)) : document, blobs };
    if (name === 'Quay wall corner') yield mirrored(document, blobs);
  }
}

/** The other hand of the corner, as a piece of its own. */
async function mirrored(
  document: PieceDocument,
  blobs: ReadonlyMap<string, Uint8Array>,
): Promise<TakenPiece> {
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
