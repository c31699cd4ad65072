import {
  type MeasuredAnchor,
  measuredPivot as pivotOf,
  type PieceDocument,
  takeFaces,
  type Vec3,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** Where a measured anchor is, for the whole piece or one part; null where an open surface has none. */
export async function measuredPivot(
  document: PieceDocument,
  anchor: MeasuredAnchor,
  part: string | null,
  progress: Progress,
): Promise<Vec3 | null> {
  const placed = await placedOf(document, (share) => progress(share, 'Measuring'));
  const node = part === null ? -1 : document.nodes.findIndex((each) => each.id === part);
  const mesh = node < 0 ? placed.mesh : takeFaces(placed.mesh, (f) => placed.node[f] === node);
  return pivotOf(mesh, anchor);
}
