import { lstat, mkdir, open, readdir, realpath, rename, rm } from 'node:fs/promises';
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
  /** ends when what is being put there is: two deliveries never write one file at a time */
  private last: Promise<unknown> = Promise.resolve();

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
  put(place: string, files: readonly PlacedFile[]): Promise<void> {
    const done = this.last.then(() => this.putNow(place, files));
    this.last = done.catch(() => undefined);
    return done;
  }

  private async putNow(place: string, files: readonly PlacedFile[]): Promise<void> {
    const placed = files.map(({ name, bytes }) => {
      const path = join(this.root, ...place.split('/'), ...name.split('/'));
      return { path, beside: join(dirname(path), `.${basename(path)}.part`), bytes };
    });
    try {
      // The folder itself is never made: one that is gone may be a disk that is not there.
      const root = await realpath(this.root);
      for (const { beside, bytes } of placed) {
        await enter(root, dirname(beside).slice(this.root.length).split(sep).filter(Boolean));
        await writeWhole(beside, bytes);
      }
      // A folder in the way of the last would be met when the others are replaced already.
      for (const { path } of placed) {
        const there = await lstat(path).catch(() => null);
        if (there?.isDirectory()) throw Object.assign(new Error(path), { code: 'EISDIR' });
      }
      for (const { path, beside } of placed) await rename(beside, path);
    } catch (error) {
      for (const { beside } of placed) await rm(beside, { force: true }).catch(() => undefined);
      throw told(error);
    }
  }
}

/** Make folders below each other, none of them outside. @param root a real path */
async function enter(root: string, steps: readonly string[]): Promise<void> {
  let at = root;
  for (const step of steps) {
    await mkdir(join(at, step)).catch((error: { code?: string }) => {
      if (error.code !== 'EEXIST') throw error;
    });
    at = await realpath(join(at, step));
    if (!at.startsWith(root + sep))
      throw new HttpProblem(
        'refused',
        `“${steps.join('/')}” leads out of the folder for deliveries by a link; remove the link. Nothing was replaced.`,
      );
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

/** What went wrong as a sentence for the person; what is no matter of theirs stays as it is. */
export function told(error: unknown): unknown {
  const { code } = error as { code?: string };
  const says = code === undefined ? undefined : SENTENCES[code];
  return says === undefined
    ? error
    : new HttpProblem(
        code === 'ENOSPC' || code === 'EDQUOT' ? 'full' : 'refused',
        `The folder for deliveries ${says}.`,
      );
}
