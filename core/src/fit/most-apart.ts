import { convexHull } from '../hull/index.js';

/** Points to search with: the farthest apart when there are many. The shape that is found is laid round all. */
export function mostApart(corners: ArrayLike<number>, most = 80): ArrayLike<number> {
  if (corners.length / 3 <= most) return corners;
  const result = convexHull(corners, { maxVertices: most });
  return result.span === 'solid' ? result.hull.points : corners;
}
