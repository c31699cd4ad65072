import { add, axesFrom, length, normalized, scaled, type Vec3 } from '../math/index.js';

/** True for a direction; slivers too thin for their normal to be computed have none. */
export const isDirection = (axis: Readonly<Vec3>): boolean => Math.abs(length(axis) - 1) < 1e-6;

/**
 * The direction near `start` for which `value` is least: steps to four sides, halved when none is better,
 * from `wide` to `fine` radians.
 */
export function refineAxis(
  start: Readonly<Vec3>,
  value: (axis: Vec3) => number,
  { wide = 0.1, fine = 1e-5 }: { wide?: number; fine?: number } = {},
): { axis: Vec3; value: number } {
  let axis = normalized(start);
  let least = value(axis);
  for (let step = wide; step > fine; step /= 2) {
    for (let moved = true, rounds = 0; moved && rounds < 12; rounds++) {
      moved = false;
      const [u, , w] = axesFrom(axis, [1, 0, 0]);
      for (const aside of [u, scaled(u, -1), w, scaled(w, -1)]) {
        const tried = normalized(add(axis, scaled(aside, step)));
        const found = value(tried);
        if (!(found < least * (1 - 1e-12))) continue;
        axis = tried;
        least = found;
        moved = true;
        break;
      }
    }
  }
  return { axis, value: least };
}
