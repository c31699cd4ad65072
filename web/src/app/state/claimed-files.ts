import { isManifestFile, type Manifest, readManifest } from '@yard-brace/core';
import { sentenceOf } from '../api/told';

/** Files that a delivery's manifest puts together again: they are one piece, and no pieces of their own. */
export interface Claimed {
  wholes: { file: File; beside: File[] }[];
  /** manifests that cannot be read, each with the reason */
  refused: { file: File; why: string }[];
  /** the files that no manifest names */
  others: File[];
}

const isManifest = ({ name }: File): boolean => isManifestFile(name);
const baseOf = (path: string): string => path.split('/').pop()!.toLowerCase();

/** Take the files of deliveries out of what was dropped. A manifest alone claims nothing: it is no art. */
export async function claimedFiles(files: readonly File[]): Promise<Claimed> {
  const claimed: Claimed = { wholes: [], refused: [], others: files.filter((file) => !isManifest(file)) };
  for (const file of files.filter(isManifest)) {
    try {
      const names = namesOf(readManifest(file.name, await file.text()));
      const beside = claimed.others.filter(({ name }) => names.has(name.toLowerCase()));
      claimed.wholes.push({ file, beside });
      claimed.others = claimed.others.filter((other) => !beside.includes(other));
    } catch (error) {
      claimed.refused.push({ file, why: sentenceOf(error) });
    }
  }
  return claimed;
}

const namesOf = ({ files, meshes }: Manifest): ReadonlySet<string> =>
  new Set([...files.map(({ name }) => name), ...meshes.map(({ file }) => file)].map(baseOf));
