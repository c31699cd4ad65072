import {
  applyEdit,
  type Intake,
  type Mesh,
  meshReader,
  readPiece,
  type UnitName,
  UNITS,
} from '@yard-brace/core';
import { withNeighbours } from './files.js';
import { UsageError } from './usage-error.js';

export interface TakenIn extends Intake {
  meshOf: (blob: string) => Mesh;
  pictureOf: (blob: string) => Uint8Array;
}

/** Read a file as a piece; a unit given is taken as confirmed. */
export async function takeInFile(paths: readonly string[], unit: string | undefined): Promise<TakenIn> {
  const [path, ...named] = paths;
  if (!path) throw new UsageError('Name a file.');
  if (unit !== undefined && !(unit in UNITS))
    throw new UsageError(`--unit takes ${Object.keys(UNITS).join(', ')}, not “${unit}”.`);
  const { file, beside } = await withNeighbours(path, named);
  const { document, blobs } = await readPiece(file, beside);
  return {
    document: unit ? applyEdit(document, { kind: 'set-unit', unit: unit as UnitName }) : document,
    blobs,
    meshOf: meshReader(blobs),
    pictureOf: (blob) => blobs.get(blob)!,
  };
}
