import { orient2d, orient3d } from 'robust-predicates';

/** True when a, b, c, d span nothing: exact. */
export const coplanar = (p: ArrayLike<number>, a: number, b: number, c: number, d: number) =>
  orient(p, a, b, c, d) === 0;

/** Positive when `d` lies on the side that the counter-clockwise face a, b, c looks to. Exact in sign. */
export const orient = (p: ArrayLike<number>, a: number, b: number, c: number, d: number): number =>
  orientPoint(p, a, b, c, p[d * 3]!, p[d * 3 + 1]!, p[d * 3 + 2]!);

/** As `orient`, for a point given by its place. (orient3d is positive below the face, so it is turned.) */
export function orientPoint(
  p: ArrayLike<number>,
  a: number,
  b: number,
  c: number,
  x: number,
  y: number,
  z: number,
): number {
  return -orient3d(
    p[a * 3]!,
    p[a * 3 + 1]!,
    p[a * 3 + 2]!,
    p[b * 3]!,
    p[b * 3 + 1]!,
    p[b * 3 + 2]!,
    p[c * 3]!,
    p[c * 3 + 1]!,
    p[c * 3 + 2]!,
    x,
    y,
    z,
  );
}

/** Exact: on one line when that is so in all three projections. */
export function collinear(p: ArrayLike<number>, a: number, b: number, c: number): boolean {
  for (const [i, j] of [
    [0, 1],
    [1, 2],
    [2, 0],
  ] as const) {
    const turn = orient2d(
      p[a * 3 + i]!,
      p[a * 3 + j]!,
      p[b * 3 + i]!,
      p[b * 3 + j]!,
      p[c * 3 + i]!,
      p[c * 3 + j]!,
    );
    if (turn !== 0) return false;
  }
  return true;
}

/** The order of points by x, then y, then z. */
export function comesBefore(p: ArrayLike<number>, v: number, w: number): boolean {
  for (let axis = 0; axis < 3; axis++) {
    const difference = p[v * 3 + axis]! - p[w * 3 + axis]!;
    if (difference !== 0) return difference < 0;
  }
  return false;
}
