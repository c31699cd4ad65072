import { statfs } from 'node:fs/promises';
import { HttpProblem } from '../http/problems.js';

/** What is left alone of the disk: a database that meets a full one breaks off. */
const RESERVE_BYTES = 64 * 2 ** 20;
/** What was found is believed for so long. */
const FRESH_MS = 500;

export interface DiskSpaceOptions {
  /** where the database keeps its files; without it nothing is checked */
  folder?: string | undefined;
  /** bytes that are free there. Default: as the file system says */
  freeBytes?: (folder: string) => Promise<number>;
}

/** Looks whether there is room before anything is written, and refuses in one sentence when there is none. */
export class DiskSpace {
  private looked = -Infinity;
  private free = Infinity;

  constructor(private readonly options: DiskSpaceOptions = {}) {}

  /** @throws HttpProblem `full` when no more than the reserve is left */
  async check(): Promise<void> {
    const { folder, freeBytes = freeIn } = this.options;
    if (folder === undefined) return;
    if (performance.now() - this.looked > FRESH_MS) {
      this.free = await freeBytes(folder).catch(() => Infinity);
      this.looked = performance.now();
    }
    if (this.free > RESERVE_BYTES) return;
    throw new HttpProblem(
      'full',
      `The disk is full: ${Math.round(this.free / 2 ** 20)} MB left in ${folder}. Make room there; nothing is lost meanwhile.`,
    );
  }
}

async function freeIn(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}
