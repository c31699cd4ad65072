import type { Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { type Bvh, buildBvh } from './bvh.js';
import { closedSolid, type ClosedSolid } from './closed-solid.js';
import { type Closest, closestDistance, closestPoint } from './closest-point.js';

/** Directions that no modelled edge or face lies along. */
const DIRECTIONS = [
  [0.5773502, 0.6180339, 0.5337],
  [-0.4142135, 0.7320508, 0.5412],
  [0.2360679, -0.6457513, 0.7261],
] as const;

/** Inside, outside and distance for any triangle soup, read as `closedSolid` reads it. */
export class SolidDistance {
  readonly solid: ClosedSolid;
  /** over the art's own faces, and the caps that close what encloses something */
  readonly surface: Bvh;
  /** over faces and caps of shells that enclose something */
  private readonly shells: Bvh;
  private readonly stack = new Uint32Array(256);

  constructor(mesh: Pick<Mesh, 'positions' | 'indices'>, solid = closedSolid(mesh)) {
    this.solid = solid;
    const { positions, indices, faces, shellOf, volumes } = solid;
    const encloses = (f: number) => volumes[shellOf[f]!] !== 0;
    let all = true;
    for (let f = 0; all && f < faces; f++) all = encloses(f);
    this.surface = buildBvh({ positions, indices });
    this.shells = all
      ? this.surface
      : buildBvh({ positions, indices: indices.filter((_, i) => encloses((i / 3) | 0)) });
  }

  /** The nearest place on the art; null when none is within `within`. */
  closest(p: Readonly<Vec3>, within = Infinity): Closest | null {
    return closestPoint(this.surface, p, within);
  }

  /** Metres to the surface; Infinity when it is not within `within`. As `closestDistance`, also for `hint`. */
  distance(x: number, y: number, z: number, within = Infinity, hint = -1): number {
    return closestDistance(this.surface, x, y, z, within, hint);
  }

  /** Metres to the surface, negative inside; Infinity when there is no surface. */
  signed(p: Readonly<Vec3>): number {
    const distance = this.distance(...p);
    return this.inside(p) ? -distance : distance;
  }

  /** Whether shells are entered more often than left on the way to the point; two of three ways must agree. */
  inside([x, y, z]: Readonly<Vec3>): boolean {
    const first = this.depth(x, y, z, 0) > 0;
    const second = this.depth(x, y, z, 1) > 0;
    return first === second ? first : this.depth(x, y, z, 2) > 0;
  }

  private depth(x: number, y: number, z: number, direction: number): number {
    const [dx, dy, dz] = DIRECTIONS[direction]!;
    const { boxes, right, start, count, order, positions: p, indices, nodes } = this.shells;
    const { stack } = this;
    if (nodes === 0) return 0;
    let depth = 0;
    let top = 0;
    stack[top++] = 0;
    while (top) {
      const node = stack[--top]!;
      const b = node * 6;
      const tx1 = (boxes[b]! - x) / dx,
        tx2 = (boxes[b + 3]! - x) / dx;
      const ty1 = (boxes[b + 1]! - y) / dy,
        ty2 = (boxes[b + 4]! - y) / dy;
      const tz1 = (boxes[b + 2]! - z) / dz,
        tz2 = (boxes[b + 5]! - z) / dz;
      const enter = Math.max(tx1 < tx2 ? tx1 : tx2, ty1 < ty2 ? ty1 : ty2, tz1 < tz2 ? tz1 : tz2);
      const leave = Math.min(tx1 > tx2 ? tx1 : tx2, ty1 > ty2 ? ty1 : ty2, tz1 > tz2 ? tz1 : tz2);
      if (leave < 0 || enter > leave) continue;
      if (right[node]) {
        stack[top++] = right[node]!;
        stack[top++] = node + 1;
        continue;
      }
      for (let i = start[node]!; i < start[node]! + count[node]!; i++)
        depth += leaves(p, indices, order[i]! * 3, x, y, z, dx, dy, dz);
    }
    return depth;
  }
}

/** 1 when the ray leaves through the triangle's back, -1 when it comes in through its front, 0 when it misses. */
function leaves(
  p: Float64Array,
  indices: Uint32Array,
  f: number,
  x: number,
  y: number,
  z: number,
  dx: number,
  dy: number,
  dz: number,
): number {
  const a = indices[f]! * 3;
  const b = indices[f + 1]! * 3;
  const c = indices[f + 2]! * 3;
  const e1x = p[b]! - p[a]!,
    e1y = p[b + 1]! - p[a + 1]!,
    e1z = p[b + 2]! - p[a + 2]!;
  const e2x = p[c]! - p[a]!,
    e2y = p[c + 1]! - p[a + 1]!,
    e2z = p[c + 2]! - p[a + 2]!;
  const hx = dy * e2z - dz * e2y,
    hy = dz * e2x - dx * e2z,
    hz = dx * e2y - dy * e2x;
  // (Moeller and Trumbore, "Fast, minimum storage ray-triangle intersection", 1997.)
  const det = e1x * hx + e1y * hy + e1z * hz;
  if (det === 0) return 0;
  const sx = x - p[a]!,
    sy = y - p[a + 1]!,
    sz = z - p[a + 2]!;
  const u = (sx * hx + sy * hy + sz * hz) / det;
  if (u < 0 || u > 1) return 0;
  const qx = sy * e1z - sz * e1y,
    qy = sz * e1x - sx * e1z,
    qz = sx * e1y - sy * e1x;
  const v = (dx * qx + dy * qy + dz * qz) / det;
  if (v < 0 || u + v > 1 || (e2x * qx + e2y * qy + e2z * qz) / det <= 0) return 0;
  return det < 0 ? 1 : -1;
}
