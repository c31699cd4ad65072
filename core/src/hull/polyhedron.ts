import { comesBefore, coplanar } from './orientation.js';

/** A triangle of a growing hull. */
export interface Face {
  a: number;
  b: number;
  c: number;
  /** neighbours across a-b, b-c, c-a */
  next: [Face, Face, Face];
  nx: number;
  ny: number;
  nz: number;
  d: number;
  /** below this height the plane distance may have the wrong sign, and the exact predicate decides */
  doubt: number;
  /** points above this face and assigned to it; the first is the farthest */
  above: number[];
  farthest: number;
  alive: boolean;
  mark: number;
}

/** The vertex at which an edge of a face starts; edges count on past the last. */
export const corner = (face: Face, edge: number): number => [face.a, face.b, face.c][edge % 3]!;

/**
 * The faces of a finished hull: exactly coplanar triangles as one polygon, corners that are no corners left
 * out. Corners are numbers of points, in the order of their places.
 */
export function polyhedron(
  p: ArrayLike<number>,
  alive: readonly Face[],
): { corners: number[]; faces: number[][] } {
  const group = new Map<Face, number>();
  const groups: Face[][] = [];
  for (const seed of alive) {
    if (group.has(seed)) continue;
    const members = [seed];
    group.set(seed, groups.length);
    for (const face of members) {
      for (let edge = 0; edge < 3; edge++) {
        const other = face.next[edge]!;
        if (group.has(other)) continue;
        const apex = corner(other, other.next.indexOf(face) + 2);
        if (!coplanar(p, face.a, face.b, face.c, apex)) continue;
        group.set(other, groups.length);
        members.push(other);
      }
    }
    groups.push(members);
  }
  const outlines = groups.map((members) => outline(members, group));
  const faceCount = new Map<number, number>();
  for (const loop of outlines) for (const v of loop) faceCount.set(v, (faceCount.get(v) ?? 0) + 1);
  const used = [...faceCount].filter(([, count]) => count >= 3).map(([v]) => v);
  used.sort((v, w) => (comesBefore(p, v, w) ? -1 : 1));
  const number = new Map(used.map((v, i) => [v, i]));
  const faces = outlines
    .map((loop) => loop.filter((v) => number.has(v)).map((v) => number.get(v)!))
    .map(lowestFirst)
    .sort((f, g) => compareLists(f, g));
  return { corners: used, faces };
}

/** The border of a group of coplanar triangles, as one loop in their turning direction. */
function outline(members: readonly Face[], group: ReadonlyMap<Face, number>): number[] {
  const own = group.get(members[0]!);
  const after = new Map<number, number>();
  for (const face of members) {
    for (let edge = 0; edge < 3; edge++) {
      if (group.get(face.next[edge]!) !== own) after.set(corner(face, edge), corner(face, edge + 1));
    }
  }
  const first = after.keys().next().value!;
  const loop = [first];
  for (let v = after.get(first)!; v !== first; v = after.get(v)!) {
    if (loop.push(v) > after.size) throw new Error('the border of a hull face does not close');
  }
  return loop;
}

function lowestFirst(loop: number[]): number[] {
  const at = loop.indexOf(Math.min(...loop));
  return [...loop.slice(at), ...loop.slice(0, at)];
}

function compareLists(f: readonly number[], g: readonly number[]): number {
  for (let i = 0; i < Math.min(f.length, g.length); i++) if (f[i] !== g[i]) return f[i]! - g[i]!;
  return f.length - g.length;
}
