import { changedPieces, samplePieces } from '@yard-brace/demo';
import type { TestFile } from './bench';

async function filesOf(pieces: Awaited<ReturnType<typeof samplePieces>>, name: string): Promise<TestFile[]> {
  const piece = pieces.find((each) => each.name === name);
  if (!piece) throw new Error(`the sample yard has no ${name}`);
  return piece.files.map(({ name: file, bytes }) => ({
    name: file,
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(bytes),
  }));
}

/** A sample piece's files as a person would drop them. */
export const sampleFiles = async (name: string): Promise<TestFile[]> => filesOf(await samplePieces(), name);
/** The same piece as its maker changed it later. */
export const changedFiles = async (name: string): Promise<TestFile[]> => filesOf(await changedPieces(), name);
