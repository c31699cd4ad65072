import { collidingArt, findOpenings, type FoundOpening, type PieceDocument } from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** Ways through the art that are free from side to side. */
export async function openings(document: PieceDocument, progress: Progress): Promise<FoundOpening[]> {
  const placed = await placedOf(document, (share) => progress(share * 0.5, 'Fetching the art'));
  progress(0.5, 'Looking for openings');
  return findOpenings(collidingArt(document, placed).mesh);
}
