import {
  DecomposeError,
  findCentreLine,
  type Isometry,
  placesAlong,
  type PieceDocument,
  takeFaces,
  type Vec3,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** Where copies of what stands at a place stand along the run that chosen faces make. */
export async function runPlaces(
  document: PieceDocument,
  faces: Uint32Array,
  { at, count }: { at: Vec3; count: number },
  progress: Progress,
): Promise<Isometry[]> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Following the run'));
  const chosen = new Set(faces);
  const run = takeFaces(mesh, (face) => chosen.has(face));
  const found = findCentreLine(run.positions, run.indices);
  if (!found) throw new DecomposeError('These faces are no run; choose those of a rail, a hose or a beam.');
  return placesAlong(found.line, { closed: found.closed, at, count });
}
