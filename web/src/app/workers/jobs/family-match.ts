import {
  artMesh,
  diagonalOf,
  matchingShift,
  type MatchingShift,
  meshBounds,
  type PieceDocument,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes, placedOf } from './art';

/** Corners this near to each other, in sizes of the piece, are the same; never nearer than a tenth of a millimetre. */
const SAME_SHARE = 1e-4;
const LEAST_TOLERANCE_METRES = 1e-4;

/** From another piece's art to the same art of this one; null where they have none in common. */
export async function familyMatch(
  document: PieceDocument,
  other: PieceDocument,
  progress: Progress,
): Promise<MatchingShift | null> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Comparing'));
  const theirs = artMesh(
    other,
    await meshes.hold(other, (share) => progress(0.5 + share * 0.4, 'Comparing')),
  );
  const tolerance = Math.max(LEAST_TOLERANCE_METRES, diagonalOf(meshBounds(mesh)) * SAME_SHARE);
  return matchingShift(theirs, mesh, tolerance);
}
