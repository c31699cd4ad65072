import { type PieceDocument, uvsOfFaces } from '@yard-brace/core';
import { transfer } from 'comlink';
import type { Progress, UvValues } from '../messages';
import { placedOf } from './art';

/** How one UV set lies on each face of the drawn art: picture widths a metre, and stretch. */
export async function uvPaint(document: PieceDocument, set: number, progress: Progress): Promise<UvValues> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Measuring UVs'));
  const uv = mesh.uvs[set];
  const faces = mesh.indices.length / 3;
  const values: UvValues = { density: new Float32Array(faces), stretch: new Float32Array(faces) };
  if (uv)
    uvsOfFaces(mesh, uv).forEach((face, f) => {
      if (!face) return;
      values.density[f] = face.density;
      values.stretch[f] = Math.min(face.stretch, 1e6);
    });
  return transfer(values, [values.density.buffer, values.stretch.buffer]);
}
