import type { HullBuilder } from './hull-builder.js';
import { comesBefore, coplanar } from './orientation.js';

/** A finished hull in flat arrays: vertices as numbers of points, faces as runs of vertices. */
export interface Polyhedron {
  /** [n]: numbers of points, in the order of their places */
  corners: Int32Array;
  /** counter-clockwise from outside, lowest vertex first, in ascending order */
  faces: number[][];
}

/**
 * The faces of a finished hull: exactly coplanar triangles as one polygon, vertices that are no corners
 * left out. What comes out does not depend on the order of the input.
 */
export function polyhedron(p: Float64Array, hull: HullBuilder): Polyhedron {
  const { corners, twins, alive, faces: slots } = hull;
  const group = new Int32Array(slots).fill(-1);
  const loops: number[][] = [];
  const stack: number[] = [];
  for (let seed = 0; seed < slots; seed++) {
    if (!alive[seed] || group[seed]! >= 0) continue;
    const own = loops.length;
    const [a, b, c] = [corners[seed * 3]!, corners[seed * 3 + 1]!, corners[seed * 3 + 2]!];
    group[seed] = own;
    stack.push(seed);
    let border = -1;
    let members = 0;
    while (stack.length) {
      const face = stack.pop()!;
      members++;
      for (let h = face * 3; h < face * 3 + 3; h++) {
        const twin = twins[h]!;
        const other = (twin / 3) | 0;
        if (group[other] === own) continue;
        const apex = corners[other * 3 + (((twin % 3) + 2) % 3)]!;
        if (group[other]! < 0 && coplanar(p, a, b, c, apex)) {
          group[other] = own;
          stack.push(other);
        } else border = h;
      }
    }
    loops.push(members === 1 ? [a, b, c] : outline(border, own, group, hull));
  }
  return inOrder(p, loops);
}

/** The border of a group of faces as one loop, from one of its half-edges on. */
function outline(border: number, own: number, group: Int32Array, { corners, twins }: HullBuilder): number[] {
  const loop: number[] = [];
  let h = border;
  do {
    loop.push(corners[h]!);
    h = h % 3 === 2 ? h - 2 : h + 1;
    while (group[(twins[h]! / 3) | 0] === own) {
      h = twins[h]!;
      h = h % 3 === 2 ? h - 2 : h + 1;
    }
  } while (h !== border);
  return loop;
}

function inOrder(p: Float64Array, loops: number[][]): Polyhedron {
  // A corner has three faces or more; what has two lies on an edge, what has one inside a face.
  const meets = new Int32Array(p.length / 3);
  for (const loop of loops) for (const v of loop) meets[v]!++;
  const used: number[] = [];
  for (let v = 0; v < meets.length; v++) if (meets[v]! >= 3) used.push(v);
  const sorted = byPlace(p, used);
  const number = new Int32Array(p.length / 3).fill(-1);
  sorted.forEach((v, i) => (number[v] = i));
  // Faces start at their lowest vertex, so they are sorted by counting those, then a few by their second.
  const start = new Int32Array(sorted.length + 1);
  for (const face of loops) {
    renumber(face, number);
    start[face[0]! + 1]!++;
  }
  for (let v = 0; v < sorted.length; v++) start[v + 1]! += start[v]!;
  const ordered = new Array<number[]>(loops.length);
  const filled = new Int32Array(sorted.length);
  for (const face of loops) {
    const v = face[0]!;
    let at = start[v]! + filled[v]!++;
    for (; at > start[v]! && ordered[at - 1]![1]! > face[1]!; at--) ordered[at] = ordered[at - 1]!;
    ordered[at] = face;
  }
  return { corners: sorted, faces: ordered };
}

/** Points in the order of their places: first roughly along x (counting sort), then exactly what came to lie together. */
function byPlace(p: Float64Array, points: readonly number[]): Int32Array {
  let [low, high] = [Infinity, -Infinity];
  for (const v of points) {
    low = Math.min(low, p[v * 3]!);
    high = Math.max(high, p[v * 3]!);
  }
  const cells = points.length;
  const cellOf = (v: number) =>
    Math.min(cells - 1, Math.floor(((p[v * 3]! - low) / (high - low)) * cells)) || 0;
  const start = new Uint32Array(cells + 1);
  for (const v of points) start[cellOf(v) + 1]!++;
  for (let c = 0; c < cells; c++) start[c + 1]! += start[c]!;
  const next = start.slice();
  const sorted = new Int32Array(points.length);
  for (const v of points) sorted[next[cellOf(v)]!++] = v;
  for (let c = 0; c < cells; c++)
    if (start[c + 1]! - start[c]! > 1)
      sorted
        .subarray(start[c], start[c + 1])
        .sort((v, w) => p[v * 3]! - p[w * 3]! || (comesBefore(p, v, w) ? -1 : 1));
  return sorted;
}

/** A loop in new numbers, from its lowest on; vertices without a number are left out. */
function renumber(loop: number[], number: Int32Array): void {
  let kept = 0;
  let low = 0;
  for (let i = 0; i < loop.length; i++) {
    const v = number[loop[i]!]!;
    if (v < 0) continue;
    if (kept && v < loop[low]!) low = kept;
    loop[kept++] = v;
  }
  if (kept < loop.length) loop.length = kept;
  for (; low > 0; low--) loop.push(loop.shift()!);
}
