import { basename, dirname, join } from 'node:path';
import {
  boundsOf,
  extensionOf,
  inMetres,
  type InputFile,
  type Manifest,
  ManifestError,
  putTogether,
  PutTogetherError,
  readFile,
  readManifest,
  type Scene,
  sizeOf,
  wholeMesh,
  WRITTEN_FORMATS,
  writeScene,
} from '@yard-brace/core';
import { diskFile, writeFiles } from './files.js';
import type { Options, Result } from './result.js';
import { UsageError } from './usage-error.js';

/** The whole piece again from a delivery: the manifest first, its files beside it or named after it. */
export async function assemble(paths: readonly string[], options: Options): Promise<Result> {
  const [path, ...named] = paths;
  if (!path) throw new UsageError('Name the manifest of a delivery.');
  if (!options.out) throw new UsageError('--out names the file to write.');
  const manifest = await manifestFrom(path);
  const beside = await Promise.all(manifest.files.map(({ name }) => fileOf(dirname(path), name)));
  const inputs = [...(await Promise.all(named.map(diskFile))), ...beside.filter((file) => file !== null)];
  const models = new Map<string, Scene>();
  for (const { file } of manifest.meshes) {
    const input = inputs.find(({ name }) => name === file);
    if (input && !models.has(file)) models.set(file, inMetres(await readFile(input, inputs)));
  }
  try {
    return await writeWhole(putTogether(manifest, models), options.out);
  } catch (error) {
    if (error instanceof PutTogetherError) throw new UsageError(error.message);
    throw error;
  }
}

async function manifestFrom(path: string): Promise<Manifest> {
  const file = await diskFile(path);
  try {
    return readManifest(file.name, new TextDecoder().decode(await file.bytes()));
  } catch (error) {
    if (error instanceof ManifestError) throw new UsageError(error.message);
    throw error;
  }
}

/** A yard's folder for papers is so many steps below a piece's own, at most. */
const MOST_STEPS_UP = 4;

/** A file of the delivery: from the manifest's folder, or from one above it where papers have a folder of their own. */
async function fileOf(folder: string, name: string): Promise<InputFile | null> {
  for (let up = 0; up <= MOST_STEPS_UP; up++) {
    const file = await diskFile(join(folder, ...Array<string>(up).fill('..'), name)).catch(() => null);
    if (file) return file;
  }
  return null;
}

async function writeWhole(scene: Scene, out: string): Promise<Result> {
  const format = WRITTEN_FORMATS.find((each) => each === extensionOf(out));
  if (!format)
    throw new UsageError(`--out takes a file ending in ${WRITTEN_FORMATS.join(', ')}, not “${out}”.`);
  const files = await writeScene(scene, format, basename(out).replace(/\.[^.]*$/, ''));
  await writeFiles(dirname(out), files);
  return {
    json: {
      meshes: scene.nodes.map(({ name }) => name),
      sizeMetres: sizeOf(boundsOf(wholeMesh(scene).positions)),
      files: files.map(({ name, bytes }) => ({ name, bytes: bytes.length })),
    },
    stopped: false,
  };
}
