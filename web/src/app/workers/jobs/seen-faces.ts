import { type PieceDocument, visibleFaces } from '@yard-brace/core';
import type { LookAt, Progress } from '../messages';
import { placedOf } from './art';

/** Of the faces asked for, those that are seen: what is hidden or cut away neither shows nor is in the way. Shape: [t]. */
export async function seenFaces(
  document: PieceDocument,
  asked: Uint8Array,
  { sight, hidden, cut }: LookAt,
  progress: Progress,
): Promise<Uint8Array> {
  const placed = await placedOf(document, (share) => progress(share * 0.2, 'Finding what is visible'));
  const gone = new Set(hidden);
  const face = (f: number) => !gone.has(document.nodes[placed.node[f]!]!.id);
  return visibleFaces(placed.mesh, asked, sight, { face, cut }, (share) =>
    progress(0.2 + 0.8 * share, 'Finding what is visible'),
  );
}
