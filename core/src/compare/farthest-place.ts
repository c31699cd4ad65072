import { Heap, type Vec3 } from '../math/index.js';

/** What is known of a triangle: how far off its middle is, and how far off at most it is anywhere in it. */
export interface Asked<Known> {
  /** metres; NaN where the middle does not count */
  here: number;
  /** metres */
  most: number;
  /** what its pieces start from */
  known?: Known;
  /** asked when the triangle has to be divided: with corners on both sides of where this is 0 it is cut there */
  border?: () => Border | undefined;
}

/** Positive on one side, negative or 0 on the other. */
export type Border = (x: number, y: number, z: number) => number;

/**
 * @param best only what is farther off counts, metres
 * @param known what was found out about the triangle it is a half of
 */
export type Ask<Known> = (
  middle: Vec3,
  triangle: Float64Array,
  best: number,
  known: Known | undefined,
) => Asked<Known>;

export interface FarthestOptions {
  /** what is known already: only places farther off are looked for, metres */
  known: number;
  /** the answer may be less than the true one by so much, metres */
  precision: number;
  /** triangles halved, at most; beyond it the answer is the farthest place found. Default 4,000 */
  maxHalved?: number;
}

export interface Farthest {
  distance: number;
  at: Vec3;
}

/**
 * The place of some triangles that is farthest off, by branch and bound, the most promising first: of each the middle
 * is asked for, those that cannot hold a farther place are left, the others are cut where something else begins
 * to be nearest, else halved across their longest side.
 *
 * @param corners [9n]
 * @returns null when no place is farther off than what is known
 */
export function farthestPlace<Known>(
  corners: ArrayLike<number>,
  ask: Ask<Known>,
  { known, precision, maxHalved = 4_000 }: FarthestOptions,
): Farthest | null {
  let best = known;
  let at: Vec3 | null = null;
  const open = new Heap<{
    triangle: Float64Array;
    known: Known | undefined;
    border: Asked<Known>['border'];
  }>();
  const look = (triangle: Float64Array, from: Known | undefined, cut = false) => {
    const middle: Vec3 = [
      (triangle[0]! + triangle[3]! + triangle[6]!) / 3,
      (triangle[1]! + triangle[4]! + triangle[7]!) / 3,
      (triangle[2]! + triangle[5]! + triangle[8]!) / 3,
    ];
    const { here, most, known, border } = ask(middle, triangle, best, from);
    if (here > best) {
      best = here;
      at = middle;
    }
    if (most > best + precision) open.push(most, { triangle, known, border: cut ? undefined : border });
  };
  for (let f = 0; f < corners.length; f += 9)
    look(
      Float64Array.from({ length: 9 }, (_, i) => corners[f + i]!),
      undefined,
    );
  for (let halved = 0; halved < maxHalved; halved++) {
    const next = open.pop(best + precision);
    if (!next) break;
    const border = next.border?.();
    const pieces = border && cutAt(next.triangle, border);
    for (const piece of pieces ?? halves(next.triangle)) look(piece, next.known, !!pieces);
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

/** A cut nearer to a corner than this share of a side brings nothing. */
const LEAST_CUT = 1e-6;

/** A cut beside the border is a cut as well: its pieces are only somewhat harder to judge. */
const CROSSING_STEPS = 5;

/** The pieces of a triangle on both sides of a border; null when its corners are all on one. */
function cutAt(t: Float64Array, side: Border): Float64Array[] | null {
  const off = [0, 3, 6].map((i) => side(t[i]!, t[i + 1]!, t[i + 2]!));
  const inside = off.map((d) => d <= 0);
  const lone = [0, 1, 2].find((i) => inside[i] !== inside[(i + 1) % 3] && inside[i] !== inside[(i + 2) % 3]);
  if (lone === undefined) return null;
  const [l, m, n] = [lone, (lone + 1) % 3, (lone + 2) % 3] as const;
  const corner = (i: number) => t.subarray(i * 3, i * 3 + 3);
  const [p, q] = [m, n].map((i) => crossing(corner(l), corner(i), off[l]!, off[i]!, side));
  if (!p || !q) return null;
  return [
    Float64Array.of(...corner(l), ...p, ...q),
    Float64Array.of(...p, ...corner(m), ...corner(n)),
    Float64Array.of(...p, ...corner(n), ...q),
  ];
}

/** Where a line between two places crosses a border: regula falsi (the Illinois method). */
function crossing(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  offA: number,
  offB: number,
  side: Border,
): Vec3 | null {
  const at = (t: number): Vec3 => [
    a[0]! + (b[0]! - a[0]!) * t,
    a[1]! + (b[1]! - a[1]!) * t,
    a[2]! + (b[2]! - a[2]!) * t,
  ];
  let [from, to, fromOff, toOff] = [0, 1, offA, offB];
  const near = 1e-6 * Math.max(Math.abs(offA), Math.abs(offB));
  let t = 0.5;
  for (let i = 0; i < CROSSING_STEPS; i++) {
    t = from + ((to - from) * fromOff) / (fromOff - toOff);
    const off = side(...at(t));
    if (Math.abs(off) <= near) break;
    if (off <= 0 === offA <= 0) {
      from = t;
      fromOff = off;
      toOff /= 2;
    } else {
      to = t;
      toOff = off;
      fromOff /= 2;
    }
  }
  return t > LEAST_CUT && t < 1 - LEAST_CUT ? at(t) : null;
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

/** The corner of a triangle ([9]) at which a distance is greatest. */
export function farthestCorner(t: Float64Array, distance: (x: number, y: number, z: number) => number): Vec3 {
  const corners = [0, 3, 6].map((i): Vec3 => [t[i]!, t[i + 1]!, t[i + 2]!]);
  const off = corners.map((corner) => distance(...corner));
  return corners[off.indexOf(Math.max(...off))]!;
}
