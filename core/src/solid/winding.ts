import { type Bvh, buildBvh } from './bvh.js';
import type { Mesh } from '../mesh/index.js';

/** How many radii away a node is taken as one dipole. */
const FAR_FIELD_RADII = 2.3;

/**
 * Inside or outside of any triangle soup: how often the surface goes round a point. 1 inside a closed
 * outward surface, 0 outside, something between where the surface is open. (Jacobson, Kavan and
 * Sorkine-Hornung, "Robust inside-outside segmentation using generalized winding numbers", 2013; far
 * triangles taken together as in Barill and others, "Fast winding numbers for soups and clouds", 2018.)
 */
export class Winding {
  readonly bvh: Bvh;
  /** [6m]: area-weighted normal and centre of each node's triangles */
  private readonly dipoles: Float64Array;
  /** [m]: distance from that centre to the farthest corner */
  private readonly radii: Float64Array;
  private readonly stack = new Uint32Array(256);

  constructor(mesh: Pick<Mesh, 'positions' | 'indices'>) {
    this.bvh = buildBvh(mesh);
    const { nodes, boxes, right, start, count, order, positions: p, indices } = this.bvh;
    this.dipoles = new Float64Array(nodes * 6);
    this.radii = new Float64Array(nodes);
    const area = new Float64Array(nodes);
    for (let node = nodes - 1; node >= 0; node--) {
      const d = node * 6;
      const sums = [0, 0, 0, 0, 0, 0];
      if (right[node]) {
        for (const child of [node + 1, right[node]!]) {
          area[node]! += area[child]!;
          for (let k = 0; k < 3; k++) {
            sums[k]! += this.dipoles[child * 6 + k]!;
            sums[3 + k]! += this.dipoles[child * 6 + 3 + k]! * area[child]!;
          }
        }
      } else {
        for (let i = start[node]!; i < start[node]! + count[node]!; i++) {
          const f = order[i]! * 3;
          const [a, b, c] = [indices[f]! * 3, indices[f + 1]! * 3, indices[f + 2]! * 3];
          const n = [0, 0, 0];
          for (let k = 0; k < 3; k++) {
            const [s, t] = [(k + 1) % 3, (k + 2) % 3];
            n[k] =
              ((p[b + s]! - p[a + s]!) * (p[c + t]! - p[a + t]!) -
                (p[b + t]! - p[a + t]!) * (p[c + s]! - p[a + s]!)) /
              2;
          }
          const size = Math.hypot(n[0]!, n[1]!, n[2]!);
          area[node]! += size;
          for (let k = 0; k < 3; k++) {
            sums[k]! += n[k]!;
            sums[3 + k]! += ((p[a + k]! + p[b + k]! + p[c + k]!) / 3) * size;
          }
        }
      }
      let radius = 0;
      for (let k = 0; k < 3; k++) {
        this.dipoles[d + k] = sums[k]!;
        const [low, high] = [boxes[d + k]!, boxes[d + 3 + k]!];
        this.dipoles[d + 3 + k] = area[node]! > 0 ? sums[3 + k]! / area[node]! : low / 2 + high / 2;
        radius += Math.max(high - this.dipoles[d + 3 + k]!, this.dipoles[d + 3 + k]! - low) ** 2;
      }
      this.radii[node] = Math.sqrt(radius);
    }
  }

  /** How often the surface goes round the point. */
  at(x: number, y: number, z: number): number {
    const { right, start, count, order, positions: p, indices } = this.bvh;
    const { dipoles, radii, stack } = this;
    let sum = 0;
    let top = 0;
    stack[top++] = 0;
    while (top) {
      const node = stack[--top]!;
      const d = node * 6;
      const dx = dipoles[d + 3]! - x;
      const dy = dipoles[d + 4]! - y;
      const dz = dipoles[d + 5]! - z;
      const squared = dx * dx + dy * dy + dz * dz;
      const reach = radii[node]! * FAR_FIELD_RADII;
      if (squared > reach * reach) {
        sum +=
          (dipoles[d]! * dx + dipoles[d + 1]! * dy + dipoles[d + 2]! * dz) / (squared * Math.sqrt(squared));
      } else if (right[node]) {
        stack[top++] = right[node]!;
        stack[top++] = node + 1;
      } else {
        for (let i = start[node]!; i < start[node]! + count[node]!; i++)
          sum += solidAngle(p, indices, order[i]! * 3, x, y, z);
      }
    }
    return sum / (4 * Math.PI);
  }
}

/** Solid angle of a triangle seen from a point. (Van Oosterom and Strackee, 1983.) */
function solidAngle(
  p: Float64Array,
  indices: Uint32Array,
  f: number,
  x: number,
  y: number,
  z: number,
): number {
  const a = indices[f]! * 3;
  const b = indices[f + 1]! * 3;
  const c = indices[f + 2]! * 3;
  const ax = p[a]! - x,
    ay = p[a + 1]! - y,
    az = p[a + 2]! - z;
  const bx = p[b]! - x,
    by = p[b + 1]! - y,
    bz = p[b + 2]! - z;
  const cx = p[c]! - x,
    cy = p[c + 1]! - y,
    cz = p[c + 2]! - z;
  const la = Math.sqrt(ax * ax + ay * ay + az * az);
  const lb = Math.sqrt(bx * bx + by * by + bz * bz);
  const lc = Math.sqrt(cx * cx + cy * cy + cz * cz);
  const six = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  const rest =
    la * lb * lc +
    (ax * bx + ay * by + az * bz) * lc +
    (bx * cx + by * cy + bz * cz) * la +
    (cx * ax + cy * ay + cz * az) * lb;
  return 2 * Math.atan2(six, rest);
}
