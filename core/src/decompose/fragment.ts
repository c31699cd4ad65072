import { capsOver } from './caps.js';
import {
  areaVector,
  type Bounds,
  boundsOf,
  diagonalOf,
  dot,
  sixfoldVolume,
  UnionFind,
  type Vec3,
} from '../math/index.js';

/**
 * A piece of a solid while it is being cut: the art's faces that are left, then caps that close what cuts
 * opened. Its points are what a shape for it has to hold.
 */
export interface Fragment {
  /** [3n] */
  points: Float64Array;
  /** [3t] */
  triangles: Int32Array;
  /** how many of the triangles are art; the rest are caps */
  faces: number;
}

/** A plane n . x = d, unit normal. */
export interface CutPlane {
  nx: number;
  ny: number;
  nz: number;
  d: number;
}

/** The plane through a place across a direction, or so many metres further along it. */
export const planeThrough = (place: Vec3, normal: Vec3, off = 0): CutPlane => ({
  nx: normal[0],
  ny: normal[1],
  nz: normal[2],
  d: dot(place, normal) + off,
});

export const fragmentBounds = (fragment: Fragment): Bounds => boundsOf(fragment.points);

/** Signed volume enclosed by faces and caps. */
export function fragmentVolume({ points: p, triangles }: Fragment): number {
  if (!triangles.length) return 0;
  const o = triangles[0]! * 3;
  const [ox, oy, oz] = [p[o]!, p[o + 1]!, p[o + 2]!];
  let six = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const a = triangles[i]! * 3;
    const b = triangles[i + 1]! * 3;
    const c = triangles[i + 2]! * 3;
    six += sixfoldVolume(p, a, b, c, ox, oy, oz);
  }
  return six / 6;
}

/**
 * Both sides of a cut: where n . x <= d, and the rest; null for a side with nothing in it. Vertices within `eps` of
 * the plane lie on it. The outlines along the plane get caps, so that both sides stay closed.
 */
export function cutFragment(
  fragment: Fragment,
  plane: CutPlane,
  eps: number,
): [Fragment | null, Fragment | null] {
  const { points: p, triangles, faces } = fragment;
  const n = p.length / 3;
  const off = new Float64Array(n);
  let low = 0;
  let high = 0;
  for (let v = 0; v < n; v++) {
    const h = plane.nx * p[v * 3]! + plane.ny * p[v * 3 + 1]! + plane.nz * p[v * 3 + 2]! - plane.d;
    off[v] = Math.abs(h) <= eps ? 0 : h;
    if (off[v]! < 0) low++;
    else if (off[v]! > 0) high++;
  }
  if (high === 0) return [fragment, null];
  if (low === 0) return [null, fragment];
  const made: number[] = [];
  const cache = new Map<number, number>();
  const between = (a: number, b: number): number => {
    const [s, t] = a < b ? [a, b] : [b, a];
    const key = s * n + t;
    let v = cache.get(key);
    if (v === undefined) {
      const share = off[s]! / (off[s]! - off[t]!);
      v = n + made.length / 3;
      for (let k = 0; k < 3; k++) made.push(p[s * 3 + k]! + (p[t * 3 + k]! - p[s * 3 + k]!) * share);
      cache.set(key, v);
    }
    return v;
  };
  const sides: { real: number[]; caps: number[]; edges: number[] }[] = [
    { real: [], caps: [], edges: [] },
    { real: [], caps: [], edges: [] },
  ];
  const onPlane = (v: number) => v >= n || off[v] === 0;
  const put = (side: number, real: boolean, a: number, b: number, c: number) => {
    const to = sides[side]!;
    (real ? to.real : to.caps).push(a, b, c);
    if (onPlane(a) && onPlane(b)) to.edges.push(a, b);
    if (onPlane(b) && onPlane(c)) to.edges.push(b, c);
    if (onPlane(c) && onPlane(a)) to.edges.push(c, a);
  };
  const loop: number[] = [0, 0, 0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const real = t < faces * 3;
    const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const [ha, hb, hc] = [off[a]!, off[b]!, off[c]!];
    if (ha === 0 && hb === 0 && hc === 0) {
      // A face in the plane closes the side it looks away from.
      if (real) put(facesAlong(p, a, b, c, plane) ? 0 : 1, true, a, b, c);
      continue;
    }
    if (ha <= 0 && hb <= 0 && hc <= 0) {
      put(0, real, a, b, c);
      continue;
    }
    if (ha >= 0 && hb >= 0 && hc >= 0) {
      put(1, real, a, b, c);
      continue;
    }
    for (const side of [0, 1]) {
      const sign = side ? 1 : -1;
      let count = 0;
      for (let i = 0; i < 3; i++) {
        const v = triangles[t + i]!;
        const w = triangles[t + ((i + 1) % 3)]!;
        if (off[v]! * sign >= 0) loop[count++] = v;
        if (off[v]! * off[w]! < 0) loop[count++] = between(v, w);
      }
      for (let i = 1; i + 1 < count; i++) put(side, real, loop[0]!, loop[i]!, loop[i + 1]!);
    }
  }
  const all = new Float64Array(p.length + made.length);
  all.set(p);
  all.set(made, p.length);
  const size = diagonalOf(boundsOf(p));
  return sides.map(({ real, caps, edges }) => {
    const closing = [...caps, ...capsOver(all, edges, plane, size)];
    return real.length || closing.length >= 12 ? compact(all, real, closing) : null;
  }) as [Fragment | null, Fragment | null];
}

function facesAlong(p: Float64Array, a: number, b: number, c: number, { nx, ny, nz }: CutPlane): boolean {
  return dot(areaVector(p, a * 3, b * 3, c * 3), [nx, ny, nz]) > 0;
}

/** Only the points that are used. */
export function compact(points: Float64Array, real: ArrayLike<number>, caps: ArrayLike<number>): Fragment {
  const number = new Int32Array(points.length / 3).fill(-1);
  const triangles = new Int32Array(real.length + caps.length);
  const kept: number[] = [];
  for (let i = 0; i < triangles.length; i++) {
    const v = i < real.length ? real[i]! : caps[i - real.length]!;
    if (number[v]! < 0) {
      number[v] = kept.length / 3;
      kept.push(points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!);
    }
    triangles[i] = number[v]!;
  }
  return { points: Float64Array.from(kept), triangles, faces: real.length / 3 };
}

/**
 * The connected pieces of a fragment. An inner surface, as of a tube cut off at both ends, has a negative
 * volume of its own and belongs to the piece that has it inside.
 */
export function splitFragment(fragment: Fragment): Fragment[] {
  const { points, triangles, faces } = fragment;
  const joined = new UnionFind(points.length / 3);
  for (let t = 0; t < triangles.length; t += 3) {
    joined.join(triangles[t]!, triangles[t + 1]!);
    joined.join(triangles[t]!, triangles[t + 2]!);
  }
  const lists = new Map<number, { real: number[]; caps: number[] }>();
  for (let t = 0; t < triangles.length; t += 3) {
    const r = joined.root(triangles[t]!);
    let list = lists.get(r);
    if (!list) lists.set(r, (list = { real: [], caps: [] }));
    (t < faces * 3 ? list.real : list.caps).push(triangles[t]!, triangles[t + 1]!, triangles[t + 2]!);
  }
  if (lists.size === 1) return [fragment];
  const size = diagonalOf(fragmentBounds(fragment));
  const pieces = [...lists.values()]
    .map(({ real, caps }) => compact(points, real, caps))
    .filter((piece) => piece.faces > 0 || fragmentVolume(piece) > 1e-9 * size ** 3);
  const inner = pieces.filter((piece) => fragmentVolume(piece) < -1e-9 * size ** 3);
  if (!inner.length) return pieces;
  const outer = pieces.filter((piece) => !inner.includes(piece));
  const homes = outer.map((piece) => ({ piece, bounds: fragmentBounds(piece) }));
  const loose: Fragment[] = [];
  for (const piece of inner) {
    const { min, max } = fragmentBounds(piece);
    const slack = size * 1e-9;
    const home = homes
      .filter(({ bounds: b }) => min.every((v, k) => v >= b.min[k]! - slack && max[k]! <= b.max[k]! + slack))
      .sort((a, b) => diagonalOf(a.bounds) - diagonalOf(b.bounds))[0];
    if (home) home.piece = joinFragments([home.piece, piece]);
    else loose.push(piece);
  }
  return [...homes.map(({ piece }) => piece), ...loose];
}

export function joinFragments(fragments: readonly Fragment[]): Fragment {
  const points: number[] = [];
  const real: number[] = [];
  const caps: number[] = [];
  for (const { points: p, triangles, faces } of fragments) {
    const first = points.length / 3;
    for (const v of p) points.push(v);
    triangles.forEach((v, i) => (i < faces * 3 ? real : caps).push(v + first));
  }
  return {
    points: Float64Array.from(points),
    triangles: Int32Array.from([...real, ...caps]),
    faces: real.length / 3,
  };
}
