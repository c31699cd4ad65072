import { type PieceDocument, wrap } from '@yard-brace/core';
import type { Progress, Wrapped, WrapRequest } from '../messages';
import { placedOf } from './art';

/** Boxes or hulls round the art. */
export async function wrapArt(
  document: PieceDocument,
  request: WrapRequest,
  progress: Progress,
): Promise<Wrapped> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.2, 'Fetching the art'));
  return wrap(mesh, { ...request, progress: (share) => progress(0.2 + share * 0.8, 'Wrapping') });
}
