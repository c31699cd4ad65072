import { convexHull, hullShape, withVertexBudget } from '../hull/index.js';
import { type HullShape, type Shape, shapePolygons } from '../shape/index.js';

export interface JoinOptions {
  /** corners at most; default: as many as it takes */
  maxCorners?: number;
  /** sides of round kinds. Default 24 */
  segments?: number;
}

/** The hull of several shapes; null when they are flat together. */
export function joinShapes(
  shapes: readonly Shape[],
  { maxCorners, segments = 24 }: JoinOptions = {},
): HullShape | null {
  const points = shapes.flatMap((shape) => [...shapePolygons(shape, { segments }).points]);
  const result = convexHull(points);
  if (result.span !== 'solid') return null;
  return hullShape(maxCorners === undefined ? result.hull : withVertexBudget(result.hull, maxCorners));
}
