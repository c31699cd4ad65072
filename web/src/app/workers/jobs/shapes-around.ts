import {
  type Mesh,
  ownFrame,
  type PieceDocument,
  pointsOfFaces,
  type Shape,
  type ShapeAround,
  shapeDistance,
  shapePolygons,
  shapesAround as around,
} from '@yard-brace/core';
import { type AroundRequest, aroundRequestSchema, type Progress } from '../messages';
import { placedOf } from './art';

/** Art that stands out of a shape by this share of its size belongs to it all the same … */
const REACH_SHARE = 0.01;
/** … and by this many metres at least. */
const MIN_REACH_METRES = 0.001;

/** A shape of every kind round chosen faces, or round the art that a shape holds. */
export async function shapesAround(
  document: PieceDocument,
  request: AroundRequest,
  progress: Progress,
): Promise<ShapeAround[]> {
  const { faces, shape, maxCorners } = aroundRequestSchema.parse(request);
  const { mesh } = await placedOf(document, (share) => progress(share * 0.3, 'Fetching the art'));
  const points = shape ? pointsIn(mesh, shape) : pointsOfFaces(mesh, faces);
  return around(points, { maxCorners, progress: (share) => progress(0.3 + share * 0.7, 'Fitting shapes') });
}

/** The art's corners that a shape holds, [3n]; its own corners where it holds none. */
function pointsIn({ positions }: Mesh, shape: Shape): ArrayLike<number> {
  const reach = Math.max(MIN_REACH_METRES, Math.max(...ownFrame(shape).size) * REACH_SHARE);
  const distance = shapeDistance(shape);
  const held: number[] = [];
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    if (distance(x, y, z) <= reach) held.push(x, y, z);
  }
  return held.length >= 12 ? held : shapePolygons(shape).points;
}
