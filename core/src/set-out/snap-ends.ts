import type { Bounds, Vec3 } from '../math/index.js';

/** What the ends of a piece catch on while it is moved. */
export interface CaughtEnds {
  /** how far it goes on from where it is, metres */
  shift: Vec3;
  /** along which axes an end is caught */
  caught: [boolean, boolean, boolean];
  /** number of the other whose end it meets; null where it catches nothing */
  other: number | null;
}

/** Sides that are farther off each other's reach along the run do not catch, metres. */
const BESIDE_METRES = 0.5;
/** Bounds that overlap in height by less than this stand on each other. */
const STACKED_METRES = 0.01;

/**
 * The ends of a piece onto the ends of its neighbours, along x and z: its far side onto their near one, or level with
 * theirs. Of several the least way counts, of equals the first.
 *
 * @param reach how near an end must come to catch, metres
 */
export function snapEnds(moving: Bounds, others: readonly Bounds[], reach: number): CaughtEnds {
  const shift: Vec3 = [0, 0, 0];
  const caught: [boolean, boolean, boolean] = [false, false, false];
  let nearest: number | null = null;
  for (const axis of [0, 2] as const) {
    const across = axis === 0 ? 2 : 0;
    let least = reach;
    others.forEach((other, i) => {
      // What stands on another, or below it, has no end to meet.
      const level =
        other.max[1] - STACKED_METRES > moving.min[1] && moving.max[1] - STACKED_METRES > other.min[1];
      const beside =
        level &&
        other.max[across] + BESIDE_METRES >= moving.min[across] &&
        moving.max[across] + BESIDE_METRES >= other.min[across];
      if (!beside) return;
      for (const [from, to] of [
        [moving.min[axis], other.max[axis]],
        [moving.max[axis], other.min[axis]],
        [moving.min[axis], other.min[axis]],
        [moving.max[axis], other.max[axis]],
      ] as const) {
        const way = to - from;
        if (Math.abs(way) > least || (Math.abs(way) === least && caught[axis])) continue;
        least = Math.abs(way);
        shift[axis] = way;
        caught[axis] = true;
        nearest = i;
      }
    });
  }
  return { shift, caught, other: nearest };
}

/** A place onto the grid, level by level: metres. */
export const onLevelGrid = ([x, y, z]: Readonly<Vec3>, grid: number): Vec3 => [
  Math.round(x / grid) * grid,
  y,
  Math.round(z / grid) * grid,
];

/** Directions that a footprint is looked at from. */
const FOOTPRINT_WAYS = 48;

/**
 * The outline of points seen from above, convex, counter-clockwise as seen from below: x and z of its corners.
 *
 * @param points [3n], or another stride
 * @returns [2m]
 */
export function footprint(points: ArrayLike<number>): Float64Array {
  const corners: [number, number][] = [];
  for (let way = 0; way < FOOTPRINT_WAYS; way++) {
    const angle = (way / FOOTPRINT_WAYS) * 2 * Math.PI;
    const [dx, dz] = [Math.cos(angle), Math.sin(angle)];
    let most = -Infinity;
    let at = -1;
    for (let i = 0; i < points.length; i += 3) {
      const along = points[i]! * dx + points[i + 2]! * dz;
      if (along > most) [most, at] = [along, i];
    }
    if (at < 0) break;
    const corner: [number, number] = [points[at]!, points[at + 2]!];
    const last = corners.at(-1);
    if (!last || last[0] !== corner[0] || last[1] !== corner[1]) corners.push(corner);
  }
  const [first] = corners;
  const last = corners.at(-1);
  if (corners.length > 1 && first && last && first[0] === last[0] && first[1] === last[1]) corners.pop();
  return Float64Array.from(corners.flat());
}
