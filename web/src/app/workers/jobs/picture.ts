import { artKey, floatsAbout, type PieceDocument, type PlacedArt, roughSurface } from '@yard-brace/core';
import { transfer } from 'comlink';
import { takePicture } from '../../drawing/picture';
import type { Progress } from '../messages';
import { originOf, placedOf } from './art';
import { toDraw } from './draw';

/** More triangles than this are not seen in a picture of so few pixels. */
const MANY_TRIANGLES = 100_000;

/** A small picture of the piece, as PNG bytes; with its shapes where they are asked for. */
export async function picture(
  document: PieceDocument,
  progress: Progress,
  shapes = false,
): Promise<Uint8Array<ArrayBuffer>> {
  const placed = await placedOf(document, (share) => progress(share * 0.6, `Drawing ${document.name}`));
  const seen = await forPicture(placed);
  const art = toDraw(artKey(document), seen, { pickable: false });
  // A rough surface has folds that the art has not.
  const ink = seen === placed ? art.ink : new Float32Array();
  const bytes = await takePicture({ ...art, ink }, document, { shapes });
  return transfer(bytes, [bytes.buffer]);
}

/** Art as a small picture needs it. */
async function forPicture(placed: PlacedArt): Promise<PlacedArt> {
  const { mesh } = placed;
  if (mesh.indices.length / 3 <= MANY_TRIANGLES) return placed;
  const rough = await roughSurface(floatsAbout(mesh.positions, originOf(mesh)), mesh, MANY_TRIANGLES);
  // Nobody points at a picture: which part a face belongs to is not asked.
  const nobody = new Uint32Array(rough.indices.length / 3);
  return { mesh: { ...mesh, ...rough }, node: nobody, face: nobody };
}
