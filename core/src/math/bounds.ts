import { subtract, type Vec3 } from './vector.js';

/** An axis-aligned box by its two extreme corners. */
export interface Bounds {
  min: Vec3;
  max: Vec3;
}

/** Bounds of no points at all: min is +Infinity and max is -Infinity, so any union with it is the other. */
export const emptyBounds = (): Bounds => ({
  min: [Infinity, Infinity, Infinity],
  max: [-Infinity, -Infinity, -Infinity],
});

/** Bounds of packed points. Shape of `positions`: [3n]. */
export function boundsOf(positions: ArrayLike<number>): Bounds {
  let x0 = Infinity,
    y0 = Infinity,
    z0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity,
    z1 = -Infinity;
  for (let i = 0; i + 2 < positions.length; i += 3) {
    const x = positions[i]!,
      y = positions[i + 1]!,
      z = positions[i + 2]!;
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  return { min: [x0, y0, z0], max: [x1, y1, z1] };
}

export function unionOf(a: Bounds, b: Bounds): Bounds {
  const pick = (choose: (x: number, y: number) => number, x: Vec3, y: Vec3): Vec3 => [
    choose(x[0], y[0]),
    choose(x[1], y[1]),
    choose(x[2], y[2]),
  ];
  return { min: pick(Math.min, a.min, b.min), max: pick(Math.max, a.max, b.max) };
}

export const isEmpty = (b: Bounds): boolean => b.min[0] > b.max[0];
export const sizeOf = (b: Bounds): Vec3 => (isEmpty(b) ? [0, 0, 0] : subtract(b.max, b.min));
export const centreOf = (b: Bounds): Vec3 => [
  b.min[0] / 2 + b.max[0] / 2,
  b.min[1] / 2 + b.max[1] / 2,
  b.min[2] / 2 + b.max[2] / 2,
];
export const diagonalOf = (b: Bounds): number => Math.hypot(...sizeOf(b));

/** The point a standing thing stands on: centre of the bounds' lowest face (Y is up). */
export const baseCentreOf = (b: Bounds): Vec3 => {
  const c = centreOf(b);
  return [c[0], b.min[1], c[2]];
};

/** Bounds of the eight corners after a matrix: exact when it turns by quarters only, else an outer estimate. */
export function boundsThrough(b: Bounds, through: (p: Vec3) => Vec3): Bounds {
  if (isEmpty(b)) return b;
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((k) =>
    through([k & 1 ? b.max[0] : b.min[0], k & 2 ? b.max[1] : b.min[1], k & 4 ? b.max[2] : b.min[2]]),
  );
  return boundsOf(corners.flat());
}

/** One of the 27 points of a box: -1, 0 or 1 along each axis for its least side, middle and greatest side. */
export const pointOfBounds = (b: Bounds, cell: Readonly<Vec3>): Vec3 =>
  [0, 1, 2].map((k) =>
    cell[k]! < 0 ? b.min[k]! : cell[k]! > 0 ? b.max[k]! : b.min[k]! / 2 + b.max[k]! / 2,
  ) as Vec3;
