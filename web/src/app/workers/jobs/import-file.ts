import { FormatError, type InputFile, type PieceDocument, readPiece } from '@yard-brace/core';
import type { Progress } from '../messages';
import { asBodies, storeBlobs } from './store-blobs';

interface PageFile extends InputFile {
  file: File;
}

/** Read a mesh file with what stands beside it, store its bytes, answer with the new piece's document. */
export async function importFile(file: File, beside: File[], progress: Progress): Promise<PieceDocument> {
  const { document, blobs, used } = await readPiece(pageFile(file), beside.map(pageFile), (share, what) =>
    progress(share * 0.7, what),
  );
  const sources = document.source.files.map(({ blob }, i): [string, Blob] => [blob, used[i]!.file]);
  await storeBlobs([...sources, ...asBodies(blobs)], (share) =>
    progress(0.7 + share * 0.3, `Storing ${file.name}`),
  );
  return document;
}

export const pageFile = (file: File): PageFile => ({
  file,
  name: file.name,
  size: file.size,
  bytes: async () => new Uint8Array(await readable(file, file.arrayBuffer())),
  async *chunks() {
    const reader = file.stream().getReader();
    for (;;) {
      const { done, value } = await readable(file, reader.read());
      if (done) return;
      yield value;
    }
  },
});

/** A file can go away, or turn out to be a folder, between the drop and the reading. */
async function readable<T>(file: File, reading: Promise<T>): Promise<T> {
  try {
    return await reading;
  } catch {
    throw new FormatError(
      file.name,
      'the file cannot be read from the disk',
      'check that it is still there and drop it again',
    );
  }
}
