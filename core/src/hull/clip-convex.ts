/** A closed convex polyhedron; `points` [3n], faces counter-clockwise seen from outside. */
export interface ConvexPolyhedron {
  points: number[];
  faces: number[][];
}

/** The box between two corners. */
export function boxPolyhedron(min: ArrayLike<number>, max: ArrayLike<number>): ConvexPolyhedron {
  const points: number[] = [];
  for (let v = 0; v < 8; v++) for (let k = 0; k < 3; k++) points.push((v >> k) & 1 ? max[k]! : min[k]!);
  return {
    points,
    faces: [
      [0, 4, 6, 2],
      [1, 3, 7, 5],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 2, 3, 1],
      [4, 5, 7, 6],
    ],
  };
}

/**
 * What of a convex polyhedron lies where nx x + ny y + nz z <= d: the same object when nothing is cut off,
 * null when nothing is left. Vertices within `eps` of the plane count as on it, so that a plane which only
 * touches leaves no crumbs; the hole is closed along the edges that lost their other side.
 */
export function clipConvex(
  solid: ConvexPolyhedron,
  nx: number,
  ny: number,
  nz: number,
  d: number,
  eps: number,
): ConvexPolyhedron | null {
  const { points: p, faces } = solid;
  const n = p.length / 3;
  const off = new Float64Array(n);
  let outside = 0;
  let inside = 0;
  for (let v = 0; v < n; v++) {
    off[v] = nx * p[v * 3]! + ny * p[v * 3 + 1]! + nz * p[v * 3 + 2]! - d;
    if (off[v]! > eps) outside++;
    else if (off[v]! < -eps) inside++;
  }
  if (outside === 0) return solid;
  if (inside === 0) return null;
  const points: number[] = [];
  const kept = new Int32Array(n).fill(-1);
  const made = new Map<number, number>();
  const keep = (v: number): number => {
    if (kept[v]! < 0) {
      kept[v] = points.length / 3;
      points.push(p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!);
    }
    return kept[v]!;
  };
  const between = (a: number, b: number): number => {
    const [low, high] = a < b ? [a, b] : [b, a];
    const key = low * n + high;
    let v = made.get(key);
    if (v === undefined) {
      const t = off[low]! / (off[low]! - off[high]!);
      v = points.length / 3;
      for (let k = 0; k < 3; k++) points.push(p[low * 3 + k]! + (p[high * 3 + k]! - p[low * 3 + k]!) * t);
      made.set(key, v);
    }
    return v;
  };
  const out: number[][] = [];
  /** half-edges still without their other side, by the vertex they end at */
  const open = new Map<number, number>();
  const sides = new Set<number>();
  const span = n * 4 + 8;
  for (const face of faces) {
    const loop: number[] = [];
    for (let i = 0; i < face.length; i++) {
      const a = face[i]!;
      const b = face[i + 1 === face.length ? 0 : i + 1]!;
      if (off[a]! <= eps) loop.push(keep(a));
      if ((off[a]! > eps && off[b]! < -eps) || (off[a]! < -eps && off[b]! > eps)) loop.push(between(a, b));
    }
    if (loop.length < 3 || !face.some((v) => off[v]! < -eps)) continue;
    out.push(loop);
    for (let i = 0; i < loop.length; i++)
      sides.add(loop[i]! * span + loop[i + 1 === loop.length ? 0 : i + 1]!);
  }
  for (const side of sides) {
    const [from, to] = [Math.floor(side / span), side % span];
    if (!sides.has(to * span + from)) open.set(to, from);
  }
  if (open.size >= 3) {
    const first = open.keys().next().value!;
    const loop = [first];
    for (let v = open.get(first)!; v !== first && loop.length <= open.size; v = open.get(v) ?? first)
      loop.push(v);
    out.push(loop);
  }
  if (out.length < 4) return null;
  return dropUnused({ points, faces: out });
}

function dropUnused({ points, faces }: ConvexPolyhedron): ConvexPolyhedron {
  const number = new Int32Array(points.length / 3).fill(-1);
  const used: number[] = [];
  for (const face of faces)
    for (let i = 0; i < face.length; i++) {
      const v = face[i]!;
      if (number[v]! < 0) {
        number[v] = used.length / 3;
        used.push(points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!);
      }
      face[i] = number[v]!;
    }
  return { points: used, faces };
}
