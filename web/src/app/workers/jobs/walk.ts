import {
  joinMeshes,
  type PieceDocument,
  plainMesh,
  proxiesAsDelivered,
  shapeTriangles,
  type TargetProfile,
  walkable,
  type Walkable,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** What is walked up of the art, and of its shapes as a target gets them; null for no shapes. */
export async function walk(
  document: PieceDocument,
  profile: TargetProfile,
  progress: Progress,
): Promise<{ art: Walkable; shapes: Walkable | null }> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Measuring steps'));
  const shapes = proxiesAsDelivered(profile, document.proxies).map(({ shape }) => {
    const { points, indices } = shapeTriangles(shape);
    return plainMesh(points, indices);
  });
  return { art: walkable(mesh), shapes: shapes.length ? walkable(joinMeshes(shapes)) : null };
}
