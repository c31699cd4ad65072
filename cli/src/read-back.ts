import { readBack, type TargetProfile } from '@yard-brace/core';
import { diskFile } from './files.js';
import { profilesFrom, rulesFrom } from './given-rules.js';
import type { Options, Result } from './result.js';
import { UsageError } from './usage-error.js';

export async function readback(paths: readonly string[], options: Options): Promise<Result> {
  const [profile] = profilesFrom(options.target, await rulesFrom(options.rules)) as [TargetProfile];
  if (paths.length === 0) throw new UsageError('Name the delivered files.');
  const files = await Promise.all(paths.map(diskFile));
  const report = await readBack(
    await Promise.all(files.map(async (file) => ({ name: file.name, bytes: await file.bytes() }))),
    profile,
  );
  if (report.meshes.length + report.shapes.length + report.ignored.length === 0)
    throw new UsageError('None of the files is a model.');
  const shapes = report.shapes.map(({ triangles: _triangles, ...shape }) => shape);
  return { json: { ...report, shapes }, stopped: report.ignored.length + report.changed.length > 0 };
}
