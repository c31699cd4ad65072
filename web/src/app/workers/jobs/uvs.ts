import { type PieceDocument, type UvReport, uvReports } from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes } from './art';

/** How the UVs of each part lie, at the size the part has. */
export async function uvs(document: PieceDocument, texels: number, progress: Progress): Promise<UvReport[]> {
  const meshOf = await meshes.hold(document, (share) => progress(share, 'Measuring UVs'));
  return uvReports(document, meshOf, { texels });
}
