import { createReadStream } from 'node:fs';
import { mkdir, readdir, readFile as readBytes, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { FormatError, type InputFile, isBesideFile, twinOf } from '@yard-brace/core';
import { UsageError } from './usage-error.js';

/** A file on the disk, read when it is asked for. @throws FormatError when it is not there */
export async function diskFile(path: string): Promise<InputFile> {
  const name = basename(path);
  const info = await stat(path).catch(() => undefined);
  if (!info?.isFile()) throw new FormatError(name, 'there is no such file', 'check the path');
  return {
    name,
    size: info.size,
    bytes: async () => new Uint8Array(await readBytes(path)),
    chunks: () => createReadStream(path, { highWaterMark: 1 << 20 }),
  };
}

/** The mesh file with what was named after it and what lies in its folder. */
export async function withNeighbours(
  path: string,
  named: readonly string[],
): Promise<{ file: InputFile; beside: InputFile[] }> {
  const file = await diskFile(path);
  const neighbours = (await readdir(dirname(path), { withFileTypes: true }))
    .filter(
      (entry) => entry.isFile() && (isBesideFile(entry.name) || twinOf(file.name, [entry]) !== undefined),
    )
    .map((entry) => join(dirname(path), entry.name))
    .sort();
  const beside = await Promise.all([...named, ...neighbours].map(diskFile));
  return { file, beside: beside.filter((other) => other.size > 0) };
}

/**
 * Write files into a folder, made when missing. Each is written beside its place first and swapped in, so that whoever
 * watches the folder never sees half of one; when one cannot be written, none is swapped.
 *
 * @throws UsageError with the place
 */
export async function writeFiles(
  folder: string,
  files: readonly { name: string; bytes: Uint8Array }[],
): Promise<void> {
  const beside = (name: string) => join(folder, dirname(name), `.${basename(name)}.part`);
  try {
    for (const { name, bytes } of files) {
      await mkdir(dirname(beside(name)), { recursive: true });
      await writeFile(beside(name), bytes);
    }
    for (const { name } of files) await rename(beside(name), join(folder, name));
  } catch (error) {
    for (const { name } of files) await rm(beside(name), { force: true }).catch(() => undefined);
    const { code } = error as { code?: string };
    throw new UsageError(
      `${folder} cannot be written to (${code ?? 'unknown error'}); choose another folder with --out.`,
    );
  }
}
