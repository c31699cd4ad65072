import { extentAlong, type PieceDocument, type Vec3 } from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** How far the art reaches along a direction: metres. */
export async function extent(document: PieceDocument, direction: Vec3, progress: Progress): Promise<number> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Measuring'));
  const [low, high] = extentAlong(mesh, direction);
  return high - low;
}
