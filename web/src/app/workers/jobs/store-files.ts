import { checkInputFile, hashOfFile } from '@yard-brace/core';
import type { Progress } from '../messages';
import { sentenceOf } from '../../api/told';
import { pageFile } from './import-file';
import { storeBlobs } from './store-blobs';

/** Files that are on their way at once: while one is sent the next is worked out. */
const LANES = 3;

/** Where the bytes of a file are stored, or why they are not. */
export type StoredOrNot = { blob: string } | { why: string };

/** Store files as they are, to be read elsewhere; one that cannot be stored keeps no other from it. */
export async function storeFiles(files: readonly File[], progress: Progress): Promise<StoredOrNot[]> {
  const stored: StoredOrNot[] = [];
  const total = files.reduce((sum, { size }) => sum + size, 0) || 1;
  let sent = 0;
  const waiting = [...files.entries()];
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const [i, file] = next;
      stored[i] = await storeFile(file);
      sent += file.size;
      progress(sent / total, `Sending files, ${files.length - waiting.length} of ${files.length}`);
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  return stored;
}

async function storeFile(file: File): Promise<StoredOrNot> {
  try {
    const input = pageFile(file);
    checkInputFile(input);
    const blob = await hashOfFile(input);
    await storeBlobs([[blob, file]], () => undefined);
    return { blob };
  } catch (error) {
    return { why: sentenceOf(error) };
  }
}
