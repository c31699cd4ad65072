import { createReadStream } from 'node:fs';
import { readdir, readFile as readBytes, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { FormatError, type InputFile, isBesideFile } from '@yard-brace/core';

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
    .filter((entry) => entry.isFile() && isBesideFile(entry.name))
    .map((entry) => join(dirname(path), entry.name))
    .sort();
  const beside = await Promise.all([...named, ...neighbours].map(diskFile));
  return { file, beside: beside.filter((other) => other.size > 0) };
}
