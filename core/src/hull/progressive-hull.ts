import type { ConvexHull } from './convex-hull.js';
import { lowest, lowestCorner, MAX_PLANES } from './lowest-corner.js';

/** What an edge would cost, and the vertex that it would become. */
interface Price {
  v: number;
  w: number;
  /** volume added */
  cost: number;
  place: [number, number, number];
  /** faces near it changed since: priced again when it would be taken */
  stale: boolean;
}

const planes = new Float64Array(MAX_PLANES * 4);

/**
 * A hull that loses vertices and only ever grows: an edge becomes one vertex outside the planes of all faces
 * round it, at the place where the least volume is added (Sander and others, "Silhouette clipping", 2000).
 * The best place is a linear programme in three unknowns.
 */
export class ProgressiveHull {
  private readonly p: Float64Array;
  /** [3f]: triangles; the first corner is -1 when gone */
  private readonly faces: number[] = [];
  /** faces at each vertex */
  private readonly star: number[][];
  private readonly prices = new Map<number, Price>();
  private left: number;

  constructor({ points, faces }: ConvexHull) {
    this.p = Float64Array.from(points);
    this.left = points.length / 3;
    this.star = Array.from({ length: this.left }, () => []);
    for (const face of faces)
      for (let i = 1; i + 1 < face.length; i++) this.add(face[0]!, face[i]!, face[i + 1]!);
    for (let v = 0; v < this.star.length; v++) for (const w of this.ring(v)) if (w > v) this.priceOf(v, w);
  }

  /** Collapse the cheapest edge until so many vertices are left; false when no edge can go. */
  reduce(maxVertices: number): boolean {
    while (this.left > maxVertices) {
      let best: Price | null = null;
      for (const price of this.prices.values()) if (!best || price.cost < best.cost) best = price;
      if (!best) return false;
      if (best.stale) this.priceOf(best.v, best.w);
      else this.collapse(best);
    }
    return true;
  }

  /** [3n] */
  corners(): Float64Array {
    const out: number[] = [];
    this.star.forEach((faces, v) => {
      if (faces.length) out.push(this.p[v * 3]!, this.p[v * 3 + 1]!, this.p[v * 3 + 2]!);
    });
    return Float64Array.from(out);
  }

  private add(a: number, b: number, c: number): void {
    const f = this.faces.length / 3;
    this.faces.push(a, b, c);
    this.star[a]!.push(f);
    this.star[b]!.push(f);
    this.star[c]!.push(f);
  }

  /** The vertices round one, each once: it comes first in exactly one of its faces' turning orders. */
  private ring(v: number): number[] {
    return this.star[v]!.map((f) => {
      const at = f * 3;
      const { faces } = this;
      return faces[at] === v ? faces[at + 1]! : faces[at + 1] === v ? faces[at + 2]! : faces[at]!;
    });
  }

  private priceOf(v: number, w: number): void {
    const [a, b] = v < w ? [v, w] : [w, v];
    const key = a * 2 ** 26 + b;
    const price = this.price(a, b);
    if (price) this.prices.set(key, price);
    else this.prices.delete(key);
  }

  private collapse({ v, w, place }: Price): void {
    const [ringV, ringW] = [this.ring(v), this.ring(w)];
    const drop = (x: number, u: number) => this.prices.delete(Math.min(x, u) * 2 ** 26 + Math.max(x, u));
    for (const u of ringV) drop(v, u);
    for (const u of ringW) drop(w, u);
    const both = this.facesRound(v, w);
    for (const f of both) {
      const corners = [this.faces[f * 3]!, this.faces[f * 3 + 1]!, this.faces[f * 3 + 2]!];
      for (const u of corners) {
        const star = this.star[u]!;
        star.splice(star.indexOf(f), 1);
      }
      this.faces[f * 3] = -1;
      if (corners.includes(v) && corners.includes(w)) continue;
      const [a, b, c] = corners.map((u) => (u === w ? v : u)) as [number, number, number];
      this.add(a, b, c);
    }
    this.p.set(place, v * 3);
    this.left--;
    const ring = this.ring(v);
    for (const u of ring) this.priceOf(v, u);
    for (const u of ring)
      for (const x of this.ring(u)) {
        if (x === v) continue;
        const known = this.prices.get(Math.min(u, x) * 2 ** 26 + Math.max(u, x));
        // An edge that could not go may be able to now.
        if (known) known.stale = true;
        else this.priceOf(u, x);
      }
  }

  private facesRound(v: number, w: number): number[] {
    const both = [...this.star[v]!];
    for (const f of this.star[w]!) if (!both.includes(f)) both.push(f);
    return both;
  }

  /** The cheapest place for the vertex that an edge becomes; null when the edge must stay. */
  private price(v: number, w: number): Price | null {
    const { p, faces } = this;
    const ringV = this.ring(v);
    let shared = 0;
    for (const u of this.ring(w)) if (ringV.includes(u)) shared++;
    const both = this.facesRound(v, w);
    if (shared !== 2 || both.length > MAX_PLANES || this.left <= 4) return null;
    // Everything is measured from v, so that a hull far from its origin loses no digits.
    const [ox, oy, oz] = [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
    let count = 0;
    let size = 0;
    let gx = 0,
      gy = 0,
      gz = 0,
      volume = 0;
    for (const f of both) {
      const [a, b, c] = [faces[f * 3]!, faces[f * 3 + 1]!, faces[f * 3 + 2]!];
      const ax = p[a * 3]! - ox,
        ay = p[a * 3 + 1]! - oy,
        az = p[a * 3 + 2]! - oz;
      const bx = p[b * 3]! - ox,
        by = p[b * 3 + 1]! - oy,
        bz = p[b * 3 + 2]! - oz;
      const cx = p[c * 3]! - ox,
        cy = p[c * 3 + 1]! - oy,
        cz = p[c * 3 + 2]! - oz;
      const nx = (by - ay) * (cz - az) - (bz - az) * (cy - ay),
        ny = (bz - az) * (cx - ax) - (bx - ax) * (cz - az),
        nz = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
      const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
      const d = nx * ax + ny * ay + nz * az;
      if (l > 0) count = addPlane(count, nx / l, ny / l, nz / l, d / l);
      volume += d;
      size = Math.max(
        size,
        Math.abs(ax) + Math.abs(ay) + Math.abs(az),
        Math.abs(bx) + Math.abs(by) + Math.abs(bz),
        Math.abs(cx) + Math.abs(cy) + Math.abs(cz),
      );
      // Faces that have v or w alone stay, with the new vertex in its place: what volume it spans with their far side.
      const own = (a === v || a === w ? 1 : 0) + (b === v || b === w ? 1 : 0) + (c === v || c === w ? 1 : 0);
      if (own !== 1) continue;
      const first = a === v || a === w;
      const second = b === v || b === w;
      const [qx, qy, qz] = first ? [bx, by, bz] : second ? [cx, cy, cz] : [ax, ay, az];
      const [rx, ry, rz] = first ? [cx, cy, cz] : second ? [ax, ay, az] : [bx, by, bz];
      gx += qy * rz - qz * ry;
      gy += qz * rx - qx * rz;
      gz += qx * ry - qy * rx;
    }
    if (!lowestCorner(planes, count, gx, gy, gz, size * 100)) return null;
    return {
      v,
      w,
      cost: Math.max(0, lowest.value - volume) / 6,
      place: [lowest.x + ox, lowest.y + oy, lowest.z + oz],
      stale: false,
    };
  }
}

/** Triangles of one flat face give their plane once. */
function addPlane(count: number, x: number, y: number, z: number, d: number): number {
  for (let i = 0; i < count * 4; i += 4)
    if (
      Math.abs(planes[i]! - x) < 1e-9 &&
      Math.abs(planes[i + 1]! - y) < 1e-9 &&
      Math.abs(planes[i + 2]! - z) < 1e-9
    ) {
      if (d > planes[i + 3]!) planes[i + 3] = d;
      return count;
    }
  planes[count * 4] = x;
  planes[count * 4 + 1] = y;
  planes[count * 4 + 2] = z;
  planes[count * 4 + 3] = d;
  return count + 1;
}
