import { buildBvh, firstHit, type PieceDocument, type WallProbe } from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** How thick the wall is at some places, at most; 0 where no ray meets its back. */
export async function wallMetres(
  document: PieceDocument,
  probes: readonly WallProbe[],
  progress: Progress,
): Promise<number> {
  const { mesh } = await placedOf(document, (share) => progress(share, 'Measuring the wall'));
  const tree = buildBvh(mesh);
  const found = probes.map(({ at, into }) => firstHit(tree, at, into, Infinity));
  return Math.max(0, ...found.filter(Number.isFinite));
}
