import { changedPieces, samplePieces } from '@yard-brace/demo';
import type { TestFile } from './bench';

type Pieces = ReturnType<typeof samplePieces>;
/** The files of all pieces, made once: they are the same each time. */
let sample: Pieces | undefined;
let changed: Pieces | undefined;

async function filesOf(pieces: Pieces, name: string): Promise<TestFile[]> {
  const piece = (await pieces).find((each) => each.name === name);
  if (!piece) throw new Error(`the sample yard has no ${name}`);
  return piece.files.map(({ name: file, bytes }) => ({
    name: file,
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(bytes),
  }));
}

/** A sample piece's files as a person would drop them. */
export const sampleFiles = (name: string) => filesOf((sample ??= samplePieces()), name);
/** The same piece as its maker changed it later. */
export const changedFiles = (name: string) => filesOf((changed ??= changedPieces()), name);
