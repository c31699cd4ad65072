import {
  discAxis,
  type PieceDocument,
  roundAxis as axisOf,
  roundFaces,
  type RoundFit,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** The axis of the round that a face of the drawn art is part of, or the flat end of; null where it is none. */
export async function roundAxis(
  document: PieceDocument,
  face: number,
  progress: Progress,
): Promise<RoundFit | null> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Finding the axis'));
  return axisOf(mesh, roundFaces(mesh, face)) ?? discAxis(mesh, face);
}
