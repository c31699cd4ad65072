import type { Shape } from '../shape/index.js';

/** A convex hull as a proxy shape, shifted by `offset` metres. */
export function hullShape(
  { points, faces }: { points: ArrayLike<number>; faces: number[][] },
  offset: readonly number[] = [0, 0, 0],
): Extract<Shape, { kind: 'hull' }> {
  return { kind: 'hull', points: Array.from(points, (value, i) => value + offset[i % 3]!), faces };
}
