import { UnionFind } from '../math/index.js';
import { edgeNormals } from './edge-normals.js';
import { cornerAngles, unitFaceNormals } from './corner-weights.js';
import { faceNeighbours } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { separateVertices, shareVertices } from './take-faces.js';
import { weld } from './weld.js';

export type EdgeMark = 'hard' | 'smooth';

/** Normals that differ by less than this, as one minus their cosine, are one: an edge between them is smooth. */
const SAME_NORMAL = 1e-5;

const next = (side: number) => (side % 3 === 2 ? side - 2 : side + 1);

/** The sides of a mesh, each with the one that it shares its edge with, and which corners stand at its two ends. */
interface Sides {
  /** welded place of every corner, [3t] */
  place: Uint32Array;
  /** [3t]: the other side of the edge; -1 where there is none, or several */
  twin: Int32Array;
}

function sidesOf(mesh: Mesh): Sides {
  const joined = weld(mesh.positions);
  const neighbours = faceNeighbours(mesh, joined);
  const place = mesh.indices.map((v) => joined.remap[v]!);
  const twin = new Int32Array(place.length).fill(-1);
  for (let side = 0; side < place.length; side++) {
    const other = neighbours[side]!;
    if (other < 0) continue;
    for (let k = other * 3; k < other * 3 + 3; k++) {
      const [a, b, c, d] = [place[side], place[next(side)], place[k], place[next(k)]];
      if ((a === d && b === c) || (a === c && b === d)) twin[side] = k;
    }
  }
  return { place, twin };
}

/** The corner of a twin side that stands where a side begins, and where it ends. */
const across = ({ place }: Sides, side: number, twin: number): [number, number] =>
  place[twin] === place[side] ? [twin, next(twin)] : [next(twin), twin];

/** Which edges a mesh's own normals show as hard, as sides (3 * face + k), one an edge; borders are none. */
export function hardEdges(mesh: Mesh): number[] {
  if (!mesh.normals) return [];
  const sides = sidesOf(mesh);
  const hard: number[] = [];
  sides.twin.forEach((twin, side) => {
    if (twin < side) return;
    const [start, end] = across(sides, side, twin);
    if (!alike(mesh, side, start) || !alike(mesh, next(side), end)) hard.push(side);
  });
  return hard;
}

function alike({ normals, indices }: Mesh, a: number, b: number): boolean {
  const [v, w] = [indices[a]! * 3, indices[b]! * 3];
  if (v === w) return true;
  const cosine =
    normals![v]! * normals![w]! + normals![v + 1]! * normals![w + 1]! + normals![v + 2]! * normals![w + 2]!;
  return cosine > 1 - SAME_NORMAL;
}

/**
 * Edges made hard or smooth on top of what the mesh's normals show already: only where a mark changes which corners
 * share a normal is that worked out anew, weighted by the angle of each corner (Thürmer and Wüthrich, 1998). All other
 * normals stay to the bit, those that came with a file among them.
 *
 * @param sides 3 * face + k each
 */
export function markEdges(mesh: Mesh, sides: Iterable<number>, as: EdgeMark): Mesh {
  const from = mesh.normals ? mesh : edgeNormals(mesh);
  const { indices, normals } = from;
  const all = sidesOf(from);
  const marked = new Set<number>();
  for (const side of sides) {
    marked.add(side);
    if (all.twin[side]! >= 0) marked.add(all.twin[side]!);
  }
  const before = new UnionFind(indices.length);
  const after = new UnionFind(indices.length);
  all.twin.forEach((twin, side) => {
    if (twin < side) return;
    const [start, end] = across(all, side, twin);
    for (const [own, other] of [
      [side, start],
      [next(side), end],
    ] as const) {
      const smooth = alike(from, own, other);
      if (smooth) before.join(own, other);
      if (marked.has(side) ? as === 'smooth' : smooth) after.join(own, other);
    }
  });
  const changed = changedFans(before, after, indices.length);
  const facing = unitFaceNormals(from);
  const angles = cornerAngles(from);
  const sums = new Float64Array(indices.length * 3);
  for (let corner = 0; corner < indices.length; corner++) {
    const root = after.root(corner);
    if (!changed[root]) continue;
    const face = (corner / 3) | 0;
    for (let k = 0; k < 3; k++) sums[root * 3 + k]! += facing[face * 3 + k]! * angles[corner]!;
  }
  const out = separateVertices(from, indices);
  for (let corner = 0; corner < indices.length; corner++) {
    const root = after.root(corner);
    const length = Math.hypot(sums[root * 3]!, sums[root * 3 + 1]!, sums[root * 3 + 2]!);
    for (let k = 0; k < 3; k++)
      out.normals![corner * 3 + k] =
        changed[root] && length > 0 ? sums[root * 3 + k]! / length : normals![indices[corner]! * 3 + k]!;
  }
  // Tangents lie across the normals that they were made with.
  if (changed.some(Boolean)) delete out.tangents;
  return shareVertices(out);
}

/** [corners]: 1 at the root of each fan that is not the very same set of corners as before. */
function changedFans(before: UnionFind, after: UnionFind, corners: number): Uint8Array {
  const sizes = [before, after].map((sets) => {
    const size = new Uint32Array(corners);
    for (let corner = 0; corner < corners; corner++) size[sets.root(corner)]!++;
    return size;
  }) as [Uint32Array, Uint32Array];
  const changed = new Uint8Array(corners);
  const old = new Int32Array(corners).fill(-1);
  for (let corner = 0; corner < corners; corner++) {
    const [was, is] = [before.root(corner), after.root(corner)];
    if (old[is] === -1) old[is] = was;
    if (old[is] !== was || sizes[0][was] !== sizes[1][is]) changed[is] = 1;
  }
  return changed;
}
