import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of the repository. */
export const HOUSE = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
export const inHouse = (...parts) => join(HOUSE, ...parts);

const SKIPPED = new Set(['node_modules', 'dist', '.build', '.angular']);

/** One hash over the contents of files and folders, by name and bytes. */
export function hashOf(paths) {
  const hash = createHash('sha256');
  const add = (path) => {
    if (!existsSync(path)) return;
    const entries = readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
    for (const entry of entries) {
      if (SKIPPED.has(entry.name)) continue;
      const child = join(path, entry.name);
      if (entry.isDirectory()) add(child);
      else if (entry.isFile()) hash.update(`${child.slice(HOUSE.length)}\0`).update(readFileSync(child));
    }
  };
  for (const path of paths) {
    const full = inHouse(path);
    if (!existsSync(full)) continue;
    try {
      add(full);
    } catch (error) {
      if (error.code !== 'ENOTDIR') throw error;
      hash.update(`${path}\0`).update(readFileSync(full));
    }
  }
  return hash.digest('hex');
}

/** Do something only when what it depends on has changed since it was last done. */
export async function whenChanged(name, paths, outputs, work) {
  const stamp = inHouse('.build', `${name}.stamp`);
  const now = hashOf(paths);
  const before = existsSync(stamp) ? readFileSync(stamp, 'utf8') : '';
  if (before === now && outputs.every((output) => existsSync(inHouse(output)))) return false;
  await work();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
  return true;
}
