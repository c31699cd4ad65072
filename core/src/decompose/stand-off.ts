import type { ConvexHull } from '../hull/index.js';
import { fanTriangles } from '../shape/index.js';
import { type DistanceBound, lastFace, type SolidDistance, squaredToTriangle } from '../solid/index.js';

/** The answer is right to within this share of itself, and this share of the art's size. */
const PRECISION_SHARE = 0.15;
const FINEST = 1 / 30;

/** The art as something hulls stand off from. */
export interface ArtDistance {
  art: SolidDistance;
  bound: DistanceBound;
  /** diagonal of the art */
  size: number;
  /** told that the work goes on */
  progress?: (share: number) => void;
}

/** Triangles that are looked at between two words that the work goes on. */
const TOLD_EVERY = 256;

/** A hull, and how far it is known to stand off. */
export interface KnownHull {
  /** its corners. Shape: [3n] */
  points: Float64Array;
  standOff: number;
}

interface StandOffOptions {
  /** the search ends at the first place that stands off more, metres */
  limit?: number;
  /** less is told as 0, metres */
  least?: number;
  /** hulls that it holds: what it has in common with one stands off no more than that */
  held?: readonly KnownHull[];
}

/** Triangles still to be looked at, [9] each. */
const stack = new Float64Array(9 * 4096);

/**
 * How far the surface of a hull stands off the art at most; inside the art is 0.
 *
 * Branch and bound over its triangles: no place of one is farther off than its middle and the way from there to
 * its farthest corner, or than its corners from the face that is nearest, so most need not be divided.
 */
export function hullStandOff(
  { points: q, faces }: ConvexHull,
  { art, bound, size, progress }: ArtDistance,
  { limit = Infinity, least = size * 1e-9, held = [] }: StandOffOptions = {},
): number {
  let most = least;
  let found = 0;
  const finest = size * FINEST;
  /** the face that was nearest to the place before */
  let near = -1;
  let looked = 0;
  const holders = held.map(cornersOf);
  // A face between corners of a hull that is held is one of its faces: the others come first.
  const holderOf = (face: readonly number[]): KnownHull | undefined =>
    held[holders.findIndex((has) => face.every((v) => has(q[v * 3]!, q[v * 3 + 1]!, q[v * 3 + 2]!)))];
  const known = faces.map(holderOf);
  if (farther(faces.filter((_, f) => !known[f]))) return found;
  farther(faces.filter((_, f) => known[f] && known[f].standOff > most * (1 + PRECISION_SHARE)));
  return found;

  /** Looks at some of the faces; true when the limit is passed. */
  function farther(some: readonly (readonly number[])[]): boolean {
    const corners = fanTriangles(some);
    // Distance from a face is convex: nowhere in a triangle is it more than at the corners.
    const isNear = (face: number, at: number, enough: number): boolean => {
      if (face < 0) return false;
      const squaredEnough = enough * enough;
      for (let i = at; i < at + 9; i += 3)
        if (squaredToTriangle(art.surface, face * 3, stack[i]!, stack[i + 1]!, stack[i + 2]!) > squaredEnough)
          return false;
      return true;
    };
    for (let f = 0; f < corners.length; f += 3) {
      let top = 0;
      for (let i = 0; i < 3; i++) for (let k = 0; k < 3; k++) stack[top++] = q[corners[f + i]! * 3 + k]!;
      while (top) {
        if (++looked % TOLD_EVERY === 0) progress?.(-1);
        top -= 9;
        const [ax, ay, az] = [stack[top]!, stack[top + 1]!, stack[top + 2]!];
        const [bx, by, bz] = [stack[top + 3]!, stack[top + 4]!, stack[top + 5]!];
        const [cx, cy, cz] = [stack[top + 6]!, stack[top + 7]!, stack[top + 8]!];
        const [x, y, z] = [(ax + bx + cx) / 3, (ay + by + cy) / 3, (az + bz + cz) / 3];
        const reach = Math.sqrt(
          Math.max(
            squared(ax - x, ay - y, az - z),
            squared(bx - x, by - y, bz - z),
            squared(cx - x, cy - y, cz - z),
          ),
        );
        const enough = most * (1 + PRECISION_SHARE);
        const within = bound.most(x, y, z);
        if (within + reach <= enough || isNear(near, top, enough)) continue;
        let off = within;
        const before = near;
        if (within > most) {
          off = Math.min(within, art.distance(x, y, z, within, near));
          near = lastFace();
          if (off > most) {
            if (art.inside([x, y, z])) off = -off;
            else {
              most = found = off;
              if (most > limit) return true;
            }
          }
        }
        if (reach <= finest || off + reach <= most * (1 + PRECISION_SHARE) || top + 18 > stack.length)
          continue;
        if (near !== before && isNear(near, top, most * (1 + PRECISION_SHARE))) continue;
        // Halved across the longest side.
        const ab = squared(ax - bx, ay - by, az - bz);
        const bc = squared(bx - cx, by - cy, bz - cz);
        const ca = squared(cx - ax, cy - ay, cz - az);
        if (ab >= bc && ab >= ca) top = halves(top, ax, ay, az, bx, by, bz, cx, cy, cz);
        else if (bc >= ca) top = halves(top, bx, by, bz, cx, cy, cz, ax, ay, az);
        else top = halves(top, cx, cy, cz, ax, ay, az, bx, by, bz);
      }
    }
    return false;
  }
}

/** Whether a place is exactly one of the corners of a hull. */
function cornersOf({ points }: KnownHull): (x: number, y: number, z: number) => boolean {
  const at = new Map<number, number[]>();
  for (let i = 0; i < points.length; i += 3) {
    const same = at.get(points[i]!);
    if (same) same.push(i);
    else at.set(points[i]!, [i]);
  }
  return (x, y, z) => !!at.get(x)?.some((i) => points[i + 1] === y && points[i + 2] === z);
}

/** A hull stands off at least so far: told from the middles of its triangles alone, in no time. */
export function standsOffAtLeast({ points: q, faces }: ConvexHull, { bound }: ArtDistance): number {
  let most = 0;
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) {
      const [a, b, c] = [face[0]! * 3, face[i]! * 3, face[i + 1]! * 3];
      const x = (q[a]! + q[b]! + q[c]!) / 3;
      const y = (q[a + 1]! + q[b + 1]! + q[c + 1]!) / 3;
      const z = (q[a + 2]! + q[b + 2]! + q[c + 2]!) / 3;
      const off = bound.least(x, y, z);
      if (off > most) most = off;
    }
  return most;
}

const squared = (x: number, y: number, z: number): number => x * x + y * y + z * z;

/** Puts both halves of a triangle, cut from c to the middle of ab, on the stack. */
function halves(
  top: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  cx: number,
  cy: number,
  cz: number,
): number {
  const [mx, my, mz] = [(ax + bx) / 2, (ay + by) / 2, (az + bz) / 2];
  put(top, ax, ay, az, mx, my, mz, cx, cy, cz);
  put(top + 9, mx, my, mz, bx, by, bz, cx, cy, cz);
  return top + 18;
}

function put(
  at: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  cx: number,
  cy: number,
  cz: number,
): void {
  stack[at] = ax;
  stack[at + 1] = ay;
  stack[at + 2] = az;
  stack[at + 3] = bx;
  stack[at + 4] = by;
  stack[at + 5] = bz;
  stack[at + 6] = cx;
  stack[at + 7] = cy;
  stack[at + 8] = cz;
}
