import {
  type ComingApart,
  comingApart as apartOf,
  type PieceDocument,
  type SplitToTry,
} from '@yard-brace/core';
import { transfer } from 'comlink';
import type { Progress } from '../messages';
import { meshes, placedOf } from './art';

/** What would come apart by a split: its pieces, and which of them each face of the drawn art is in. */
export async function comingApart(
  document: PieceDocument,
  split: SplitToTry,
  progress: Progress,
): Promise<ComingApart> {
  const meshOf = await meshes.hold(document, (share) => progress(share * 0.5, 'Looking for shells'));
  const placed = await placedOf(document, (share) => progress(0.5 + share * 0.2, 'Looking for shells'));
  const found = apartOf(document, meshOf, placed, split);
  return transfer(found, [found.ofFace.buffer]);
}
