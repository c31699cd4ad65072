import { boxPolyhedron, clipConvex, hullShape } from '../hull/index.js';
import { boundsOf, centreOf, length, normalized, scaled, sizeOf, type Vec3 } from '../math/index.js';
import { type HullShape, MIN_THICKNESS_METRES, thickened } from '../shape/index.js';

/** How many directions a hull may be limited to. */
export const DIRECTION_COUNTS = [6, 10, 14, 18, 26] as const;
export type DirectionCount = (typeof DIRECTION_COUNTS)[number];

const AXES: Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
/** Bevels of the four upright edges. */
const UPRIGHT: Vec3[] = [
  [1, 0, 1],
  [1, 0, -1],
];
const EDGES: Vec3[] = [[1, 1, 0], [1, -1, 0], [0, 1, 1], [0, 1, -1], ...UPRIGHT];
const CORNERS: Vec3[] = [
  [1, 1, 1],
  [1, 1, -1],
  [1, -1, 1],
  [-1, 1, 1],
];

const DIRECTIONS: Record<DirectionCount, Vec3[]> = {
  6: AXES,
  10: [...AXES, ...UPRIGHT],
  14: [...AXES, ...CORNERS],
  18: [...AXES, ...EDGES],
  26: [...AXES, ...EDGES, ...CORNERS],
};

/**
 * The smallest hull round packed points ([3n], n > 0) whose faces look in `count` directions only: 6 the
 * axes, 10 with bevelled upright edges, 14 with corners, 18 with edges, 26 with both. Flat sets become thin.
 */
export function directedHull(points: ArrayLike<number>, count: DirectionCount): HullShape {
  const bounds = boundsOf(points);
  const middle = centreOf(bounds);
  // Measured from the middle, so that a piece far from its origin loses no digits.
  const half = thickened(scaled(sizeOf(bounds), 0.5));
  let hull = boxPolyhedron(scaled(half, -1), half);
  const eps = length(half) * 1e-10;
  for (const direction of DIRECTIONS[count].slice(AXES.length)) {
    const n = normalized(direction);
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i < points.length; i += 3) {
      const along =
        n[0] * (points[i]! - middle[0]) +
        n[1] * (points[i + 1]! - middle[1]) +
        n[2] * (points[i + 2]! - middle[2]);
      low = Math.min(low, along);
      high = Math.max(high, along);
    }
    const missing = Math.max(0, MIN_THICKNESS_METRES - (high - low)) / 2;
    hull = clipConvex(hull, n[0], n[1], n[2], high + missing, eps) ?? hull;
    hull = clipConvex(hull, -n[0], -n[1], -n[2], missing - low, eps) ?? hull;
  }
  return hullShape(hull, middle);
}
