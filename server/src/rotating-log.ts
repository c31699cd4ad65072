import { closeSync, fstatSync, mkdirSync, openSync, renameSync, writeSync } from 'node:fs';
import { dirname } from 'node:path';

export interface RotatingLogOptions {
  /** a file that has come to this is put behind. Default 5 MB */
  maxBytes?: number;
  /** older files that are kept, `.1` the newest. Default 3 */
  kept?: number;
}

/**
 * A log file that only its owner reads, put behind when it is full. What cannot be written, on a full disk for
 * instance, is lost; whoever logs is not.
 */
export function rotatingLog(
  file: string,
  { maxBytes = 5 * 2 ** 20, kept = 3 }: RotatingLogOptions = {},
): { write(text: string): void } {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  const open = () => openSync(file, 'a', 0o600);
  let handle: number | null = open();
  let bytes = fstatSync(handle).size;
  const rotate = () => {
    closeSync(handle!);
    handle = null;
    try {
      for (let n = kept - 1; n > 0; n--) renameIfThere(`${file}.${n}`, `${file}.${n + 1}`);
      renameIfThere(file, `${file}.1`);
    } finally {
      handle = open();
      bytes = fstatSync(handle).size;
    }
  };
  return {
    write(text) {
      try {
        if (handle === null) handle = open();
        if (bytes >= maxBytes) rotate();
        bytes += writeSync(handle, text);
      } catch {
        // Nothing can be said about it anywhere: the log is where it would be said.
      }
    },
  };
}

function renameIfThere(from: string, to: string): void {
  try {
    renameSync(from, to);
  } catch (error) {
    if ((error as { code?: string }).code !== 'ENOENT') throw error;
  }
}
