import { axesFrom, cross, length, normalized, scaled, subtract, type Vec3 } from '../math/index.js';
import { type ConvexHull, convexHull } from './convex-hull.js';

/**
 * The hull of points that may be flat: what spans no volume is made so thick, evenly to both sides of its plane,
 * round its line or round its point.
 *
 * @param points [3n], n > 0
 * @param thickness metres, above 0
 * @throws RangeError when there are no points, or the thickness is lost beside their coordinates
 */
export function thickHull(points: ArrayLike<number>, thickness: number): ConvexHull {
  const result = convexHull(points);
  if (result.span === 'solid') return result.hull;
  if (result.span === 'empty') throw new RangeError('There are no points to make a hull of.');
  const half = thickness / 2;
  const shifts = acrossOf(points, result.span, thickness * 1e-9).reduce(
    (all, axis) => all.flatMap((v) => [-half, half].map((s) => v.map((c, k) => c + axis[k]! * s) as Vec3)),
    [[0, 0, 0] as Vec3],
  );
  const thick: number[] = [];
  for (let i = 0; i < points.length; i += 3)
    for (const shift of shifts)
      thick.push(points[i]! + shift[0], points[i + 1]! + shift[1], points[i + 2]! + shift[2]);
  const found = convexHull(thick);
  if (found.span !== 'solid')
    throw new RangeError(`A thickness of ${thickness} m is lost beside coordinates so large.`);
  return found.hull;
}

/** The directions in which points have no extent; what is shorter than `nothing`, metres, is none. */
function acrossOf(points: ArrayLike<number>, span: 'point' | 'line' | 'plane', nothing: number): Vec3[] {
  const at = (i: number): Vec3 => [points[i]!, points[i + 1]!, points[i + 2]!];
  const farthest = (size: (p: Vec3) => number): Vec3 => {
    let best = at(0);
    for (let i = 3; i + 2 < points.length; i += 3) if (size(at(i)) > size(best)) best = at(i);
    return best;
  };
  const start = at(0);
  const along = subtract(
    farthest((p) => length(subtract(p, start))),
    start,
  );
  if (span === 'point' || length(along) <= nothing)
    return [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ];
  const aside = subtract(
    farthest((p) => length(cross(along, subtract(p, start)))),
    start,
  );
  const normal = scaled(cross(along, aside), 1 / length(along));
  if (span === 'line' || length(normal) <= nothing) {
    const [x, , z] = axesFrom(
      normalized(along),
      Math.abs(along[0]) < length(along) * 0.9 ? [1, 0, 0] : [0, 0, 1],
    );
    return [x, z];
  }
  return [normalized(normal)];
}
