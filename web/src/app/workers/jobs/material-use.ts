import { materialUses as usesOf, type MaterialUse, type PieceDocument } from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes } from './art';

/** Who has each material of a piece, and how many faces have none. */
export async function materialUses(
  document: PieceDocument,
  progress: Progress,
): Promise<{ uses: MaterialUse[]; none: number }> {
  return usesOf(document, await meshes.hold(document, (share) => progress(share, 'Counting')));
}
