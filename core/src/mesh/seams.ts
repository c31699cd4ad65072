import { distance, type Vec3 } from '../math/index.js';
import type { Mesh } from './mesh.js';
import { pointGrid } from './point-grid.js';
import { weld } from './weld.js';

/** A vertex of one mesh and the one of another that it should meet. Lengths are in the unit of the positions. */
export interface SeamPair {
  a: Vec3;
  b: Vec3;
  /** how far they are apart */
  apart: number;
  /** above zero they leave a gap, below zero they overlap, along the way that faces look there */
  gap: number;
}

export interface Seam {
  /** those that are not where they should be first, the worst of all at the beginning */
  pairs: SeamPair[];
  /** how many vertices of the first mesh lie near the other and meet none of it: they cannot be welded */
  unmatched: number;
}

/** Apart by no more than this, vertices are in one place. */
const SAME_PLACE = 1e-9;

/**
 * Where two meshes that stand side by side should meet: every vertex of the one with the nearest of the other, when
 * each is the other's nearest and they are no farther apart than `reach`.
 */
export function seamBetween(a: Mesh, b: Mesh, reach: number): Seam {
  const [pa, pb] = [places(a), places(b)];
  const [nearestB, nearestA] = [
    nearestPoints(pa.points, pb.points, reach),
    nearestPoints(pb.points, pa.points, reach),
  ];
  const pairs: SeamPair[] = [];
  let unmatched = 0;
  pa.points.forEach((p, i) => {
    const k = nearestB[i]!;
    if (k < 0) return;
    if (nearestA[k] !== i) {
      unmatched++;
      return;
    }
    const q = pb.points[k]!;
    const apart = distance(p, q);
    const out = pa.normals[i]!;
    const along = q.reduce((sum, v, n) => sum + (v - p[n]!) * out[n]!, 0);
    const clean = apart <= SAME_PLACE ? 0 : apart;
    pairs.push({ a: p, b: q, apart: clean, gap: clean === 0 ? 0 : along < 0 ? -apart : apart });
  });
  pairs.sort((x, y) => y.apart - x.apart || x.a[0] - y.a[0] || x.a[1] - y.a[1] || x.a[2] - y.a[2]);
  return { pairs, unmatched };
}

/** Distinct places of a mesh with the way its faces look out there, not brought to unit length. */
function places(mesh: Mesh): { points: Vec3[]; normals: Vec3[] } {
  const { remap, first } = weld(mesh.positions);
  const points = [...first].map((v): Vec3 => [...mesh.positions.subarray(v * 3, v * 3 + 3)] as Vec3);
  const normals = points.map((): Vec3 => [0, 0, 0]);
  const { indices } = mesh;
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => points[remap[indices[f + k]!]!]!) as [Vec3, Vec3, Vec3];
    const n = [0, 1, 2].map((k) => {
      const [s, t] = [(k + 1) % 3, (k + 2) % 3];
      return (b[s]! - a[s]!) * (c[t]! - a[t]!) - (b[t]! - a[t]!) * (c[s]! - a[s]!);
    });
    for (let k = 0; k < 3; k++)
      for (let n2 = 0; n2 < 3; n2++) normals[remap[indices[f + k]!]!]![n2]! += n[n2]!;
  }
  return { points, normals };
}

/** For each point the number of the nearest other within reach, the first of equals; -1 for none. */
export function nearestPoints(points: readonly Vec3[], others: readonly Vec3[], reach: number): Int32Array {
  const near = pointGrid(Float64Array.from(others.flat()), reach);
  return Int32Array.from(points, (p) => {
    let best = -1;
    let least = reach;
    near(p, (i) => {
      const d = distance(p, others[i]!);
      if (d < least || (d === least && (best < 0 || i < best))) [least, best] = [d, i];
    });
    return best;
  });
}
