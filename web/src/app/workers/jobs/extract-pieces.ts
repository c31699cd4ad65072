import { extractPiece, meshNameFrom, type PieceDocument, piecesIn } from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes } from './art';

/** The several pieces of one document, each a document of its own. */
export async function extractPieces(document: PieceDocument, progress: Progress): Promise<PieceDocument[]> {
  const meshOf = await meshes.hold(document, (share) => progress(share, 'Splitting into pieces'));
  return piecesIn(document).map((tops) => extractPiece(document, tops, meshOf, meshNameFrom));
}
