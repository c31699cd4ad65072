import {
  likelyForward,
  type LikelyForward,
  type LikelyUp,
  likelyUps,
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
  const ups = likelyUps(mesh);
  const now = ups.find(({ up }) => up[1] === 1)!;
  return { up: ups[0]!, now, forward: likelyForward(mesh) };
}
