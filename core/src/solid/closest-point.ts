import type { Vec3 } from '../math/index.js';
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
  const { boxes, right, start, count, order, nodes } = bvh;
  if (nodes === 0 || order.length === 0) return null;
  const [x, y, z] = p;
  let best = within * within;
  let face = -1;
  const point: Vec3 = [0, 0, 0];
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
      const d = onTriangle(bvh, order[i]! * 3, p, found);
      if (d > best || (d === best && face >= 0)) continue;
      best = d;
      face = order[i]!;
      point[0] = found[0];
      point[1] = found[1];
      point[2] = found[2];
    }
  }
  return face < 0 ? null : { point, distance: Math.sqrt(best), face };
}

/** Deeper than any hierarchy of half as many levels as a number has bits. */
const nodeStack = new Uint32Array(256);
const farStack = new Float64Array(256);
const found: Vec3 = [0, 0, 0];

function boxDistance(boxes: Float64Array, node: number, x: number, y: number, z: number): number {
  const b = node * 6;
  const dx = x < boxes[b]! ? boxes[b]! - x : x > boxes[b + 3]! ? x - boxes[b + 3]! : 0;
  const dy = y < boxes[b + 1]! ? boxes[b + 1]! - y : y > boxes[b + 4]! ? y - boxes[b + 4]! : 0;
  const dz = z < boxes[b + 2]! ? boxes[b + 2]! - z : z > boxes[b + 5]! ? z - boxes[b + 5]! : 0;
  return dx * dx + dy * dy + dz * dz;
}

/** Squared distance to the triangle whose corners start at `indices[f]`, its nearest point in `out`. (Ericson, "Real-time collision detection", 5.1.5.) */
export function onTriangle(
  { positions: q, indices }: Pick<Bvh, 'positions' | 'indices'>,
  f: number,
  p: Readonly<Vec3>,
  out: Vec3,
): number {
  const a = indices[f]! * 3;
  const b = indices[f + 1]! * 3;
  const c = indices[f + 2]! * 3;
  const abx = q[b]! - q[a]!,
    aby = q[b + 1]! - q[a + 1]!,
    abz = q[b + 2]! - q[a + 2]!;
  const acx = q[c]! - q[a]!,
    acy = q[c + 1]! - q[a + 1]!,
    acz = q[c + 2]! - q[a + 2]!;
  const apx = p[0] - q[a]!,
    apy = p[1] - q[a + 1]!,
    apz = p[2] - q[a + 2]!;
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  let v = 0;
  let w = 0;
  if (d1 > 0 || d2 > 0) {
    const bpx = p[0] - q[b]!,
      bpy = p[1] - q[b + 1]!,
      bpz = p[2] - q[b + 2]!;
    const d3 = abx * bpx + aby * bpy + abz * bpz;
    const d4 = acx * bpx + acy * bpy + acz * bpz;
    const cpx = p[0] - q[c]!,
      cpy = p[1] - q[c + 1]!,
      cpz = p[2] - q[c + 2]!;
    const d5 = abx * cpx + aby * cpy + abz * cpz;
    const d6 = acx * cpx + acy * cpy + acz * cpz;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    if (d3 >= 0 && d4 <= d3) v = 1;
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) v = d1 / (d1 - d3);
    else if (d6 >= 0 && d5 <= d6) w = 1;
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) w = d2 / (d2 - d6);
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      w = (d4 - d3) / (d4 - d3 + (d5 - d6));
      v = 1 - w;
    } else {
      const sum = va + vb + vc;
      v = vb / sum;
      w = vc / sum;
    }
  }
  out[0] = q[a]! + abx * v + acx * w;
  out[1] = q[a + 1]! + aby * v + acy * w;
  out[2] = q[a + 2]! + abz * v + acz * w;
  return (out[0] - p[0]) ** 2 + (out[1] - p[1]) ** 2 + (out[2] - p[2]) ** 2;
}

/** Metres from a point to one triangle of the surface. */
export const faceDistance = (bvh: Bvh, face: number, p: Readonly<Vec3>): number =>
  Math.sqrt(onTriangle(bvh, face * 3, p, found));
