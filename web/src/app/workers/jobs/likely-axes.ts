import {
  likelierUp,
  likelyForward,
  type LikelyForward,
  type LikelyUp,
  type PieceDocument,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** What the art itself says of up, and of what is ahead. */
export async function likelyAxes(
  document: PieceDocument,
  progress: Progress,
): Promise<{ up: LikelyUp; now: LikelyUp; forward: LikelyForward | null }> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Looking for up'));
  const { now, likelier } = likelierUp(mesh);
  return { up: likelier ?? now, now, forward: likelyForward(mesh) };
}
