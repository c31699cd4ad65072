import { axesFrom, dot, UnionFind, type Vec3 } from '../math/index.js';

/** A closed or open outline where a plane cuts a surface. */
export interface SectionLoop {
  /** mean of the outline by length */
  centre: Vec3;
  /** of the outline, in the plane */
  length: number;
  /** enclosed, without sign */
  area: number;
  /** [2k]: ends of its segments along the two directions of the plane, from the plane's point */
  outline: number[];
}

/** Where the plane through `at` across `along` cuts triangles, one loop for each connected outline. */
export function planeSection(
  points: ArrayLike<number>,
  triangles: ArrayLike<number>,
  at: Readonly<Vec3>,
  along: Readonly<Vec3>,
): SectionLoop[] {
  const n = points.length / 3;
  const off = new Float64Array(n);
  for (let v = 0; v < n; v++) {
    const h =
      along[0] * (points[v * 3]! - at[0]) +
      along[1] * (points[v * 3 + 1]! - at[1]) +
      along[2] * (points[v * 3 + 2]! - at[2]);
    // Nothing lies on the plane: a vertex on it is taken as just in front.
    off[v] = h === 0 ? Number.MIN_VALUE : h;
  }
  const [u, , w] = axesFrom(along, [1, 0, 0]);
  /** segments by the edges of the mesh they run between */
  const ends: number[] = [];
  const places: number[] = [];
  const number = new Map<number, number>();
  const crossing = (a: number, b: number): number => {
    const [s, t] = a < b ? [a, b] : [b, a];
    const key = s * n + t;
    let i = number.get(key);
    if (i === undefined) {
      number.set(key, (i = places.length / 3));
      const share = off[s]! / (off[s]! - off[t]!);
      for (let k = 0; k < 3; k++)
        places.push(points[s * 3 + k]! + (points[t * 3 + k]! - points[s * 3 + k]!) * share);
    }
    return i;
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const [sa, sb, sc] = [off[a]! > 0, off[b]! > 0, off[c]! > 0];
    if (sa === sb && sb === sc) continue;
    if (sa !== sb) ends.push(crossing(a, b));
    if (sb !== sc) ends.push(crossing(b, c));
    if (sc !== sa) ends.push(crossing(c, a));
  }
  return loopsOf(ends, places, at, u, w);
}

function loopsOf(
  ends: readonly number[],
  places: readonly number[],
  at: Readonly<Vec3>,
  u: Vec3,
  w: Vec3,
): SectionLoop[] {
  const joined = new UnionFind(places.length / 3);
  for (let i = 0; i < ends.length; i += 2) joined.join(ends[i]!, ends[i + 1]!);
  const loops = new Map<number, SectionLoop>();
  for (let i = 0; i < ends.length; i += 2) {
    const r = joined.root(ends[i]!);
    let loop = loops.get(r);
    if (!loop) loops.set(r, (loop = { centre: [0, 0, 0], length: 0, area: 0, outline: [] }));
    const [a, b] = [ends[i]! * 3, ends[i + 1]! * 3];
    const p: Vec3 = [places[a]!, places[a + 1]!, places[a + 2]!];
    const q: Vec3 = [places[b]!, places[b + 1]!, places[b + 2]!];
    const length = Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
    for (let k = 0; k < 3; k++) loop.centre[k]! += ((p[k]! + q[k]!) / 2) * length;
    loop.length += length;
    const flat = (x: Vec3): [number, number] => {
      const d: Vec3 = [x[0] - at[0], x[1] - at[1], x[2] - at[2]];
      return [dot(d, u), dot(d, w)];
    };
    loop.outline.push(...flat(p), ...flat(q));
  }
  return [...loops.values()]
    .filter((loop) => loop.length > 0)
    .map((loop) => ({
      ...loop,
      centre: loop.centre.map((v) => v / loop.length) as Vec3,
      area: areaOf(loop.outline),
    }));
}

/** Area inside unordered segments of a closed outline: each seen from its middle, its turning taken as one way. */
function areaOf(outline: readonly number[]): number {
  let x = 0;
  let y = 0;
  for (let i = 0; i < outline.length; i += 2) {
    x += outline[i]! / (outline.length / 2);
    y += outline[i + 1]! / (outline.length / 2);
  }
  let twice = 0;
  for (let i = 0; i < outline.length; i += 4)
    twice += Math.abs(
      (outline[i]! - x) * (outline[i + 3]! - y) - (outline[i + 1]! - y) * (outline[i + 2]! - x),
    );
  return twice / 2;
}
