import type { Vec3 } from '../math/index.js';
import type { Bvh } from './bvh.js';

/**
 * How far along a ray the first triangle is met, from whichever side; `within` when none is nearer. (Möller and
 * Trumbore, Fast, minimum storage ray-triangle intersection, 1997.)
 */
export function firstHit(
  bvh: Bvh,
  origin: Readonly<Vec3>,
  direction: Readonly<Vec3>,
  within: number,
): number {
  const { boxes, right, start, count, order, positions: p, indices, nodes } = bvh;
  if (nodes === 0) return within;
  const [ox, oy, oz] = origin;
  const [dx, dy, dz] = direction;
  let best = within;
  const stack = [0];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (!reaches(boxes, node * 6, origin, direction, best)) continue;
    if (right[node]) {
      stack.push(right[node]!, node + 1);
      continue;
    }
    for (let i = start[node]!; i < start[node]! + count[node]!; i++) {
      const f = order[i]! * 3;
      const a = indices[f]! * 3,
        b = indices[f + 1]! * 3,
        c = indices[f + 2]! * 3;
      const ux = p[b]! - p[a]!,
        uy = p[b + 1]! - p[a + 1]!,
        uz = p[b + 2]! - p[a + 2]!;
      const vx = p[c]! - p[a]!,
        vy = p[c + 1]! - p[a + 1]!,
        vz = p[c + 2]! - p[a + 2]!;
      const px = dy * vz - dz * vy,
        py = dz * vx - dx * vz,
        pz = dx * vy - dy * vx;
      const det = ux * px + uy * py + uz * pz;
      if (det === 0) continue;
      const tx = ox - p[a]!,
        ty = oy - p[a + 1]!,
        tz = oz - p[a + 2]!;
      const u = (tx * px + ty * py + tz * pz) / det;
      if (!(u >= 0 && u <= 1)) continue;
      const qx = ty * uz - tz * uy,
        qy = tz * ux - tx * uz,
        qz = tx * uy - ty * ux;
      const v = (dx * qx + dy * qy + dz * qz) / det;
      if (!(v >= 0 && u + v <= 1)) continue;
      const t = (vx * qx + vy * qy + vz * qz) / det;
      if (t > 0 && t < best) best = t;
    }
  }
  return best;
}

/** Whether a ray enters a box before `within`. */
function reaches(
  boxes: Float64Array,
  at: number,
  origin: Readonly<Vec3>,
  direction: Readonly<Vec3>,
  within: number,
): boolean {
  let enter = 0;
  let leave = within;
  for (let k = 0; k < 3; k++) {
    const [o, d] = [origin[k]!, direction[k]!];
    if (d === 0) {
      if (o < boxes[at + k]! || o > boxes[at + 3 + k]!) return false;
      continue;
    }
    const one = (boxes[at + k]! - o) / d;
    const two = (boxes[at + 3 + k]! - o) / d;
    enter = Math.max(enter, Math.min(one, two));
    leave = Math.min(leave, Math.max(one, two));
  }
  return enter <= leave;
}
