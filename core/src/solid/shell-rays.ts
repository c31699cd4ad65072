import { type Bvh, buildBvh } from './bvh.js';
import type { Mesh } from '../mesh/index.js';

/** Directions that no modelled edge or face lies along. */
const DIRECTIONS = [
  [0.5773502, 0.6180339, 0.5337],
  [-0.4142135, 0.7320508, 0.5412],
  [0.2360679, -0.6457513, 0.7261],
] as const;

/**
 * Which closed shells a point is inside of, by how often a ray leaves each: odd is inside. It does not matter which
 * way a shell faces. Two of three rays must agree, so that one which grazes an edge decides nothing.
 */
export class ShellRays {
  private readonly bvh: Bvh;
  private readonly stack = new Uint32Array(256);

  /** @param shellOf [t]: the shell of each triangle */
  constructor(
    mesh: Pick<Mesh, 'positions' | 'indices'>,
    private readonly shellOf: Uint32Array,
  ) {
    this.bvh = buildBvh(mesh);
  }

  /** Whether the point is inside any shell that `counts` accepts. */
  inside(x: number, y: number, z: number, counts: (shell: number) => boolean): boolean {
    const first = this.odd(x, y, z, 0, counts);
    if (first.size === 0) return false;
    const second = this.odd(x, y, z, 1, counts);
    for (const shell of first) if (second.has(shell)) return true;
    const third = this.odd(x, y, z, 2, counts);
    for (const shell of third) if (first.has(shell) || second.has(shell)) return true;
    return false;
  }

  private odd(
    x: number,
    y: number,
    z: number,
    direction: number,
    counts: (shell: number) => boolean,
  ): Set<number> {
    const [dx, dy, dz] = DIRECTIONS[direction]!;
    const { boxes, right, start, count, order, positions: p, indices, nodes } = this.bvh;
    const { stack, shellOf } = this;
    const odd = new Set<number>();
    if (nodes === 0) return odd;
    let top = 0;
    stack[top++] = 0;
    while (top) {
      const node = stack[--top]!;
      const b = node * 6;
      // Slabs: where the ray enters and leaves the box.
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
      for (let i = start[node]!; i < start[node]! + count[node]!; i++) {
        const f = order[i]! * 3;
        const shell = shellOf[order[i]!]!;
        if (!counts(shell) || !crosses(p, indices, f, x, y, z, dx, dy, dz)) continue;
        if (!odd.delete(shell)) odd.add(shell);
      }
    }
    return odd;
  }
}

/** Möller and Trumbore, "Fast, minimum storage ray-triangle intersection", 1997. */
function crosses(
  p: Float64Array,
  indices: Uint32Array,
  f: number,
  x: number,
  y: number,
  z: number,
  dx: number,
  dy: number,
  dz: number,
): boolean {
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
  const det = e1x * hx + e1y * hy + e1z * hz;
  if (det === 0) return false;
  const sx = x - p[a]!,
    sy = y - p[a + 1]!,
    sz = z - p[a + 2]!;
  const u = (sx * hx + sy * hy + sz * hz) / det;
  if (u < 0 || u > 1) return false;
  const qx = sy * e1z - sz * e1y,
    qy = sz * e1x - sx * e1z,
    qz = sx * e1y - sy * e1x;
  const v = (dx * qx + dy * qy + dz * qz) / det;
  return v >= 0 && u + v <= 1 && (e2x * qx + e2y * qy + e2z * qz) / det > 0;
}
