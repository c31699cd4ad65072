import type { ConvexHull } from './convex-hull.js';

/** Planes of one star that are looked at in full; stars with more are left alone. */
const MOST_PLANES = 24;

/**
 * A hull that loses vertices and only ever grows: an edge becomes one vertex outside the planes of all faces
 * round it, at the place where the least volume is added (Sander and others, "Silhouette clipping", 2000).
 * The best place is a linear programme in three unknowns; with so few planes all triples are tried.
 */
export class ProgressiveHull {
  private readonly points: number[];
  /** triangles; null when gone */
  private readonly faces: ([number, number, number] | null)[] = [];
  /** faces at each vertex */
  private readonly star: Set<number>[];
  private readonly costs = new Map<number, { cost: number; place: [number, number, number] }>();
  private left: number;

  constructor({ points, faces }: ConvexHull) {
    this.points = [...points];
    this.left = points.length / 3;
    this.star = Array.from({ length: this.left }, () => new Set<number>());
    for (const face of faces) {
      for (let i = 1; i + 1 < face.length; i++) this.add([face[0]!, face[i]!, face[i + 1]!]);
    }
    for (let v = 0; v < this.left; v++) this.price(v, (w) => w > v);
  }

  /** Collapse the cheapest edge until so many vertices are left; false when no edge can go. */
  reduce(mostVertices: number): boolean {
    while (this.left > mostVertices) {
      let best = -1;
      let least = Infinity;
      for (const [edge, { cost }] of this.costs) {
        if (cost < least || (cost === least && edge < best)) {
          least = cost;
          best = edge;
        }
      }
      if (best < 0) return false;
      this.collapse(best);
    }
    return true;
  }

  /** [3n] */
  corners(): Float64Array {
    const out: number[] = [];
    this.star.forEach((faces, v) => {
      if (faces.size) out.push(this.points[v * 3]!, this.points[v * 3 + 1]!, this.points[v * 3 + 2]!);
    });
    return Float64Array.from(out);
  }

  private add(face: [number, number, number]): void {
    const f = this.faces.push(face) - 1;
    for (const v of face) this.star[v]!.add(f);
  }

  private neighbours(v: number): Set<number> {
    const ring = new Set<number>();
    for (const f of this.star[v]!) for (const w of this.faces[f]!) if (w !== v) ring.add(w);
    return ring;
  }

  private edge(v: number, w: number): number {
    return Math.min(v, w) * 2 ** 26 + Math.max(v, w);
  }

  private price(v: number, which: (w: number) => boolean = () => true): void {
    for (const w of this.neighbours(v)) {
      if (!which(w)) continue;
      const found = this.place(v, w);
      if (found) this.costs.set(this.edge(v, w), found);
      else this.costs.delete(this.edge(v, w));
    }
  }

  private collapse(edge: number): void {
    const v = Math.floor(edge / 2 ** 26);
    const w = edge % 2 ** 26;
    const { place } = this.costs.get(edge)!;
    const around = new Set([...this.neighbours(v), ...this.neighbours(w)]);
    for (const u of around) {
      this.costs.delete(this.edge(u, v));
      this.costs.delete(this.edge(u, w));
    }
    const both = new Set([...this.star[v]!, ...this.star[w]!]);
    for (const f of both) {
      const face = this.faces[f]!;
      for (const u of face) this.star[u]!.delete(f);
      this.faces[f] = null;
      if (face.includes(v) && face.includes(w)) continue;
      this.add(face.map((u) => (u === w ? v : u)) as [number, number, number]);
    }
    for (let k = 0; k < 3; k++) this.points[v * 3 + k] = place[k]!;
    this.left--;
    this.price(v);
    for (const u of this.neighbours(v)) this.price(u, (other) => other !== v);
  }

  /** The cheapest place for the vertex that an edge becomes; null when the edge must stay. */
  private place(v: number, w: number): { cost: number; place: [number, number, number] } | null {
    const p = this.points;
    const ringV = this.neighbours(v);
    let shared = 0;
    for (const u of this.neighbours(w)) if (ringV.has(u)) shared++;
    const both = new Set([...this.star[v]!, ...this.star[w]!]);
    if (shared !== 2 || both.size > MOST_PLANES || this.left <= 4) return null;
    const o = v * 3;
    const planes: number[] = [];
    let gx = 0,
      gy = 0,
      gz = 0,
      volume = 0;
    for (const f of both) {
      const face = this.faces[f]!;
      // Everything is measured from v, so that a hull far from its origin loses no digits.
      const [a, b, c] = face.map((u) => [
        p[u * 3]! - p[o]!,
        p[u * 3 + 1]! - p[o + 1]!,
        p[u * 3 + 2]! - p[o + 2]!,
      ]) as [number[], number[], number[]];
      const [ux, uy, uz] = [b[0]! - a[0]!, b[1]! - a[1]!, b[2]! - a[2]!];
      const [vx, vy, vz] = [c[0]! - a[0]!, c[1]! - a[1]!, c[2]! - a[2]!];
      const nx = uy * vz - uz * vy,
        ny = uz * vx - ux * vz,
        nz = ux * vy - uy * vx;
      const l = Math.hypot(nx, ny, nz);
      if (l > 0) planes.push(nx / l, ny / l, nz / l, (nx * a[0]! + ny * a[1]! + nz * a[2]!) / l);
      volume += nx * a[0]! + ny * a[1]! + nz * a[2]!;
      for (let i = 0; i < 3; i++) {
        const [s, t] = [face[i]!, face[(i + 1) % 3]!];
        const opposite = face[(i + 2) % 3]!;
        if (s === v || s === w || t === v || t === w || (opposite !== v && opposite !== w)) continue;
        const [q, r] = [[a, b, c][i]!, [a, b, c][(i + 1) % 3]!];
        gx += q[1]! * r[2]! - q[2]! * r[1]!;
        gy += q[2]! * r[0]! - q[0]! * r[2]!;
        gz += q[0]! * r[1]! - q[1]! * r[0]!;
      }
    }
    const found = lowestCorner(planes, gx, gy, gz);
    if (!found) return null;
    return {
      cost: Math.max(0, found.value - volume) / 6,
      place: [found.x + p[o]!, found.y + p[o + 1]!, found.z + p[o + 2]!],
    };
  }
}

/** The corner of the region outside all planes (n . x >= d) that is lowest along g. */
function lowestCorner(
  planes: readonly number[],
  gx: number,
  gy: number,
  gz: number,
): { value: number; x: number; y: number; z: number } | null {
  const n = planes.length / 4;
  let size = 0;
  for (let i = 0; i < n; i++) size = Math.max(size, Math.abs(planes[i * 4 + 3]!));
  const slack = 1e-12 * (size || 1);
  let best: { value: number; x: number; y: number; z: number } | null = null;
  for (let i = 0; i < n; i++) {
    const a = i * 4;
    for (let j = i + 1; j < n; j++) {
      const b = j * 4;
      const cx = planes[a + 1]! * planes[b + 2]! - planes[a + 2]! * planes[b + 1]!,
        cy = planes[a + 2]! * planes[b]! - planes[a]! * planes[b + 2]!,
        cz = planes[a]! * planes[b + 1]! - planes[a + 1]! * planes[b]!;
      for (let k = j + 1; k < n; k++) {
        const c = k * 4;
        const det = cx * planes[c]! + cy * planes[c + 1]! + cz * planes[c + 2]!;
        if (Math.abs(det) < 1e-7) continue;
        const [da, db, dc] = [planes[a + 3]!, planes[b + 3]!, planes[c + 3]!];
        const x =
          (dc * cx +
            da * (planes[b + 1]! * planes[c + 2]! - planes[b + 2]! * planes[c + 1]!) +
            db * (planes[c + 1]! * planes[a + 2]! - planes[c + 2]! * planes[a + 1]!)) /
          det;
        const y =
          (dc * cy +
            da * (planes[b + 2]! * planes[c]! - planes[b]! * planes[c + 2]!) +
            db * (planes[c + 2]! * planes[a]! - planes[c]! * planes[a + 2]!)) /
          det;
        const z =
          (dc * cz +
            da * (planes[b]! * planes[c + 1]! - planes[b + 1]! * planes[c]!) +
            db * (planes[c]! * planes[a + 1]! - planes[c + 1]! * planes[a]!)) /
          det;
        const value = gx * x + gy * y + gz * z;
        if (best && value >= best.value) continue;
        let m = 0;
        while (
          m < n &&
          planes[m * 4]! * x + planes[m * 4 + 1]! * y + planes[m * 4 + 2]! * z >= planes[m * 4 + 3]! - slack
        )
          m++;
        if (m === n) best = { value, x, y, z };
      }
    }
  }
  return best;
}
