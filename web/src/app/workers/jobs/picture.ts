import { artKey, type PieceDocument } from '@yard-brace/core';
import { transfer } from 'comlink';
import { takePicture } from '../../drawing/picture';
import type { Progress } from '../messages';
import { placedOf } from './art';
import { toDraw } from './draw';

/** A small picture of the piece, as PNG bytes. */
export async function picture(document: PieceDocument, progress: Progress): Promise<Uint8Array<ArrayBuffer>> {
  const placed = await placedOf(document, (share) => progress(share * 0.6, `Drawing ${document.name}`));
  const bytes = await takePicture(toDraw(artKey(document), placed, { pickable: false }), document);
  return transfer(bytes, [bytes.buffer]);
}
