import { type ReadBack, readBack, type TargetProfile, targetProfileSchema } from '@yard-brace/core';
import type { Progress } from '../messages';

/** What a target would make of files from anywhere. @throws FormatError when a model cannot be read */
export async function readBackFiles(
  files: readonly File[],
  profile: TargetProfile,
  progress: Progress,
): Promise<ReadBack> {
  const read: { name: string; bytes: Uint8Array }[] = [];
  for (const [i, file] of files.entries()) {
    progress((0.5 * i) / files.length, `Reading ${file.name}`);
    read.push({ name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) });
  }
  progress(0.5, 'Reading back');
  return readBack(read, targetProfileSchema.parse(profile));
}
