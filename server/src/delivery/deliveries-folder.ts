import { mkdir, open, readdir, realpath, rename, rm } from 'node:fs/promises';
import { basename, dirname, join, sep } from 'node:path';
import { HttpProblem } from '../http/problems.js';

interface PlacedFile {
  /** with folders, “/” between */
  name: string;
  bytes: Uint8Array;
}

/** What a person is told by the code of what went wrong. */
const SENTENCES: Record<string, string> = {
  ENOSPC: 'is full; make room there',
  EDQUOT: 'is full; make room there',
  EROFS: 'can only be read; start with another one',
  EACCES: 'may not be written to; change who may, or start with another one',
  EPERM: 'may not be written to; change who may, or start with another one',
  ENOENT: 'is gone; make it again, or start with another one',
  ENOTDIR: 'holds a file where a folder is needed; move that away',
  EISDIR: 'holds a folder where a file is needed; move that away',
  ENAMETOOLONG: 'takes no names as long; shorten the folder pattern or the name',
};

/**
 * A folder that deliveries are put into, for programs that watch it. Files are written beside their place and swapped
 * in, so that nobody sees half of one; what cannot be written whole is not swapped at all. Nothing leaves the folder,
 * also where a link in it leads elsewhere.
 */
export class DeliveriesFolder {
  constructor(private readonly root: string) {}

  /** Files of a place, by their names in it. */
  async standing(place: string): Promise<string[]> {
    const folder = join(this.root, ...place.split('/'));
    const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
    return entries
      .filter((entry) => entry.isFile() && !isBeside(entry.name))
      .map((entry) =>
        join(entry.parentPath, entry.name)
          .slice(folder.length + 1)
          .split(sep)
          .join('/'),
      )
      .sort();
  }

  /** @throws HttpProblem with a sentence; nothing is replaced then */
  async put(place: string, files: readonly PlacedFile[]): Promise<void> {
    const placed = files.map(({ name, bytes }) => {
      const path = join(this.root, ...place.split('/'), ...name.split('/'));
      return { path, beside: join(dirname(path), `.${basename(path)}.part`), bytes };
    });
    try {
      // The folder itself is never made: one that is gone may be a disk that is not there.
      const root = await realpath(this.root);
      for (const { beside, bytes } of placed) {
        await mkdir(dirname(beside), { recursive: true });
        const real = await realpath(dirname(beside));
        if (real !== root && !real.startsWith(root + sep))
          throw new HttpProblem(
            'refused',
            `“${place}” leads out of the folder for deliveries by a link; remove the link. Nothing was replaced.`,
          );
        await writeWhole(beside, bytes);
      }
      for (const { path, beside } of placed) await rename(beside, path);
    } catch (error) {
      for (const { beside } of placed) await rm(beside, { force: true }).catch(() => undefined);
      throw told(error);
    }
  }
}

const isBeside = (name: string): boolean => name.startsWith('.') && name.endsWith('.part');

/** On the disk before it is swapped in: a power cut leaves the old file or the new one. */
async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
  const file = await open(path, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
}

function told(error: unknown): unknown {
  const { code } = error as { code?: string };
  const says = code === undefined ? undefined : SENTENCES[code];
  return says === undefined
    ? error
    : new HttpProblem(
        code === 'ENOSPC' || code === 'EDQUOT' ? 'full' : 'refused',
        `The folder for deliveries ${says}.`,
      );
}
