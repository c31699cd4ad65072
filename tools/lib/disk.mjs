import { statfsSync } from 'node:fs';

/** A database that meets a full disk breaks off; below this it is not started. */
const MIN_FREE_BYTES = 64 * 2 ** 20;

/** What there is to say of a disk without room, as a sentence; null while there is enough. */
export function diskFault(folder, statfs = statfsSync) {
  const { bavail, bsize } = statfs(folder);
  const free = bavail * bsize;
  return free > MIN_FREE_BYTES
    ? null
    : `The disk is full: ${Math.round(free / 2 ** 20)} MB left in ${folder}, and the database needs ${MIN_FREE_BYTES / 2 ** 20} MB. Make room there.`;
}
