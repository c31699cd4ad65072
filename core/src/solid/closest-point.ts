import { nearestOnSegment, type Vec3 } from '../math/index.js';
import type { Bvh } from './bvh.js';

export interface Closest {
  point: Vec3;
  distance: number;
  face: number;
}

/**
 * The point of the surface nearest to a point; null when none is within `within`. Branch and bound over
 * the hierarchy, near boxes first.
 */
export function closestPoint(bvh: Bvh, p: Readonly<Vec3>, within = Infinity): Closest | null {
  const squared = search(bvh, p[0], p[1], p[2], within * within);
  if (nearestFace < 0) return null;
  const point: Vec3 = [0, 0, 0];
  onTriangle(bvh, nearestFace * 3, p, point);
  return { point, distance: Math.sqrt(squared), face: nearestFace };
}

/**
 * Metres to the surface; Infinity when it is not within `within`. Asks like `closestPoint`, and makes nothing.
 *
 * @param hint a face that may be near, as the one of the question before: it bounds the search from the start
 */
export function closestDistance(
  bvh: Bvh,
  x: number,
  y: number,
  z: number,
  within: number,
  hint: number,
): number {
  const near = hint < 0 ? Infinity : squaredToTriangle(bvh, hint * 3, x, y, z);
  const bound = Math.min(near, within * within);
  const squared = search(bvh, x, y, z, bound);
  // Rounding may lose the face that is known.
  if (nearestFace < 0 && near <= bound) nearestFace = hint;
  return nearestFace < 0 ? Infinity : Math.sqrt(squared);
}

/** The face that the last question found; -1 for none. */
export const lastFace = (): number => nearestFace;

let nearestFace = -1;

/** Squared distance to the nearest face that is no farther than `best` (squared); the face is left in `nearestFace`. */
function search(bvh: Bvh, x: number, y: number, z: number, best: number): number {
  const { boxes, right, start, count, order, nodes } = bvh;
  nearestFace = -1;
  if (nodes === 0 || order.length === 0) return best;
  let face = -1;
  let top = 0;
  nodeStack[top] = 0;
  farStack[top++] = boxDistance(boxes, 0, x, y, z);
  while (top) {
    const node = nodeStack[--top]!;
    if (farStack[top]! > best) continue;
    const other = right[node]!;
    if (other) {
      const a = boxDistance(boxes, node + 1, x, y, z);
      const b = boxDistance(boxes, other, x, y, z);
      const nearFirst = a < b;
      if ((nearFirst ? b : a) <= best) {
        nodeStack[top] = nearFirst ? other : node + 1;
        farStack[top++] = nearFirst ? b : a;
      }
      if ((nearFirst ? a : b) <= best) {
        nodeStack[top] = nearFirst ? node + 1 : other;
        farStack[top++] = nearFirst ? a : b;
      }
      continue;
    }
    for (let i = start[node]!, end = i + count[node]!; i < end; i++) {
      const d = squaredToTriangle(bvh, order[i]! * 3, x, y, z);
      if (!(d < best || (d === best && face < 0))) continue;
      best = d;
      face = order[i]!;
    }
  }
  nearestFace = face;
  return best;
}

/** Deeper than any hierarchy of half as many levels as a number has bits. */
const nodeStack = new Uint32Array(256);
const farStack = new Float64Array(256);

function boxDistance(boxes: Float64Array, node: number, x: number, y: number, z: number): number {
  const b = node * 6;
  const dx = x < boxes[b]! ? boxes[b]! - x : x > boxes[b + 3]! ? x - boxes[b + 3]! : 0;
  const dy = y < boxes[b + 1]! ? boxes[b + 1]! - y : y > boxes[b + 4]! ? y - boxes[b + 4]! : 0;
  const dz = z < boxes[b + 2]! ? boxes[b + 2]! - z : z > boxes[b + 5]! ? z - boxes[b + 5]! : 0;
  return dx * dx + dy * dy + dz * dz;
}

/** Squared distance to the triangle whose corners start at `indices[f]`, its nearest point in `out`. */
export function onTriangle(
  mesh: Pick<Bvh, 'positions' | 'indices'>,
  f: number,
  p: Readonly<Vec3>,
  out: Vec3,
): number {
  const squared = squaredToTriangle(mesh, f, p[0], p[1], p[2]);
  out[0] = near[0]!;
  out[1] = near[1]!;
  out[2] = near[2]!;
  return squared;
}

/** The point that the last triangle was nearest at: an array, as variables of a module are boxed at every writing. */
const near = new Float64Array(3);

/** Squared distance to the triangle whose corners start at `indices[f]`. (Ericson, "Real-time collision detection", 5.1.5.) */
export function squaredToTriangle(
  { positions: q, indices }: Pick<Bvh, 'positions' | 'indices'>,
  f: number,
  x: number,
  y: number,
  z: number,
): number {
  const a = indices[f]! * 3;
  const b = indices[f + 1]! * 3;
  const c = indices[f + 2]! * 3;
  const ax = q[a]!,
    ay = q[a + 1]!,
    az = q[a + 2]!;
  const abx = q[b]! - ax,
    aby = q[b + 1]! - ay,
    abz = q[b + 2]! - az;
  const acx = q[c]! - ax,
    acy = q[c + 1]! - ay,
    acz = q[c + 2]! - az;
  const apx = x - ax,
    apy = y - ay,
    apz = z - az;
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  let v = 0;
  let w = 0;
  if (d1 > 0 || d2 > 0) {
    const bpx = x - q[b]!,
      bpy = y - q[b + 1]!,
      bpz = z - q[b + 2]!;
    const d3 = abx * bpx + aby * bpy + abz * bpz;
    const d4 = acx * bpx + acy * bpy + acz * bpz;
    const cpx = x - q[c]!,
      cpy = y - q[c + 1]!,
      cpz = z - q[c + 2]!;
    const d5 = abx * cpx + aby * cpy + abz * cpz;
    const d6 = acx * cpx + acy * cpy + acz * cpz;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    // Sides without a length say nothing: the others tell.
    if (d3 >= 0 && d4 <= d3 && d1 > d3) v = 1;
    else if (vc <= 0 && d1 >= 0 && d3 <= 0 && d1 > d3) v = d1 / (d1 - d3);
    else if (d6 >= 0 && d5 <= d6 && d2 > d6) w = 1;
    else if (vb <= 0 && d2 >= 0 && d6 <= 0 && d2 > d6) w = d2 / (d2 - d6);
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0 && d4 - d3 + (d5 - d6) > 0) {
      w = (d4 - d3) / (d4 - d3 + (d5 - d6));
      v = 1 - w;
    } else {
      const sum = va + vb + vc;
      // Without area there is no inside, and where it lies beside its plane is rounding.
      if (!(sum > NO_AREA * (d1 - d3) * (d2 - d6))) return squaredToSides(q, [a, b, c], [x, y, z]);
      v = vb / sum;
      w = vc / sum;
    }
  }
  near[0] = ax + abx * v + acx * w;
  near[1] = ay + aby * v + acy * w;
  near[2] = az + abz * v + acz * w;
  const dx = near[0] - x,
    dy = near[1] - y,
    dz = near[2] - z;
  return dx * dx + dy * dy + dz * dz;
}

/** A triangle whose angle at its first corner has a sine below the root of this is a line. */
const NO_AREA = 1e-14;

/** The same to the nearest of three sides, the corners given by where they stand in the positions. */
function squaredToSides(q: Float64Array, corners: readonly number[], p: Vec3): number {
  const [a, b, c] = corners.map((at): Vec3 => [q[at]!, q[at + 1]!, q[at + 2]!]) as [Vec3, Vec3, Vec3];
  const squared = (at: Vec3) => (at[0] - p[0]) ** 2 + (at[1] - p[1]) ** 2 + (at[2] - p[2]) ** 2;
  const nearest = [nearestOnSegment(p, a, b), nearestOnSegment(p, b, c), nearestOnSegment(p, c, a)].reduce(
    (one, other) => (squared(other) < squared(one) ? other : one),
  );
  near.set(nearest);
  return squared(nearest);
}

/** Metres from a point to one triangle of the surface. */
export const faceDistance = (bvh: Bvh, face: number, p: Readonly<Vec3>): number =>
  Math.sqrt(squaredToTriangle(bvh, face * 3, p[0], p[1], p[2]));
