import type { Vec3 } from '../math/index.js';

/** What is known of a triangle from its middle: how far off it is there, and how far off at most it is anywhere in it. */
export interface Asked {
  /** metres; NaN where the middle does not count */
  here: number;
  /** metres */
  most: number;
}

export interface FarthestOptions {
  /** what is known already: only places farther off are looked for, metres */
  known: number;
  /** the answer may be less than the true one by so much, metres */
  precision: number;
  /** triangles looked at, at most; beyond it the answer is the farthest place found. Default 20,000 */
  maxTriangles?: number;
}

export interface Farthest {
  distance: number;
  at: Vec3;
}

/**
 * The place of some triangles that is farthest off, by branch and bound: of each the middle is asked for, those that
 * cannot hold a farther place are left, the others are halved across their longest side.
 *
 * @param corners [9n]
 * @returns null when no place is farther off than what is known
 */
export function farthestPlace(
  corners: ArrayLike<number>,
  ask: (middle: Vec3, triangle: Float64Array) => Asked,
  { known, precision, maxTriangles = 20_000 }: FarthestOptions,
): Farthest | null {
  let best = known;
  let at: Vec3 | null = null;
  let asked = 0;
  for (let f = 0; f < corners.length; f += 9) {
    const stack = [Float64Array.from({ length: 9 }, (_, i) => corners[f + i]!)];
    for (let triangle = stack.pop(); triangle; triangle = stack.pop()) {
      if (++asked > maxTriangles) return at && { distance: best, at };
      const middle = [0, 1, 2].map(
        (k) => (triangle![k]! + triangle![k + 3]! + triangle![k + 6]!) / 3,
      ) as Vec3;
      const { here, most } = ask(middle, triangle);
      if (here > best) {
        best = here;
        at = middle;
      }
      if (most > best + precision) stack.push(...halves(triangle));
    }
  }
  return at && { distance: best, at };
}

/** Metres from a triangle's middle to its farthest corner. */
export function reachOf(triangle: Float64Array, [x, y, z]: Readonly<Vec3>): number {
  let most = 0;
  for (let i = 0; i < 9; i += 3)
    most = Math.max(most, Math.hypot(triangle[i]! - x, triangle[i + 1]! - y, triangle[i + 2]! - z));
  return most;
}

function halves(t: Float64Array): [Float64Array<ArrayBuffer>, Float64Array<ArrayBuffer>] {
  const side = (i: number, j: number) =>
    Math.hypot(t[i]! - t[j]!, t[i + 1]! - t[j + 1]!, t[i + 2]! - t[j + 2]!);
  const [ab, bc, ca] = [side(0, 3), side(3, 6), side(6, 0)];
  const [a, b, c] = ab >= bc && ab >= ca ? [0, 3, 6] : bc >= ca ? [3, 6, 0] : [6, 0, 3];
  const one = new Float64Array(9);
  const other = new Float64Array(9);
  for (let k = 0; k < 3; k++) {
    const middle = (t[a! + k]! + t[b! + k]!) / 2;
    one[k] = t[a! + k]!;
    one[k + 3] = other[k] = middle;
    other[k + 3] = t[b! + k]!;
    one[k + 6] = other[k + 6] = t[c! + k]!;
  }
  return [one, other];
}

/** A maximum is told to this many metres: a thousandth of itself, and never finer than the art's size deserves. */
export const precisionOf = (size: number, max: number): number => Math.max(size * 1e-5, max * 1e-3);

/** The most that a distance comes to at the corners of a triangle ([9]); for a convex one, anywhere in it. */
export const mostAtCorners = (
  t: Float64Array,
  distance: (x: number, y: number, z: number) => number,
): number =>
  Math.max(distance(t[0]!, t[1]!, t[2]!), distance(t[3]!, t[4]!, t[5]!), distance(t[6]!, t[7]!, t[8]!));
