import { type PieceDocument, withoutExtras as withoutOf } from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes } from './art';

/** What was read of a file without some of its extras; nothing new is stored. */
export async function withoutExtras(
  document: PieceDocument,
  ids: ReadonlySet<string>,
  progress: Progress,
): Promise<PieceDocument> {
  return withoutOf(document, ids, await meshes.hold(document, (share) => progress(share, 'Leaving out')));
}
