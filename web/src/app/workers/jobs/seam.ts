import { artMesh, type PieceDocument, type Seam, seamBetween } from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes, placedOf } from './art';

/** Where a piece and one beside it should meet, vertex by vertex. */
export async function seam(
  document: PieceDocument,
  beside: PieceDocument,
  reachMetres: number,
  progress: Progress,
): Promise<Seam> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Comparing'));
  const other = artMesh(
    beside,
    await meshes.hold(beside, (share) => progress(0.5 + share * 0.5, 'Comparing')),
  );
  return seamBetween(mesh, other, reachMetres);
}
