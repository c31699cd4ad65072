import { eachEdge } from './each-edge.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/** How the faces of a mesh are connected, its vertices joined by position. */
export interface Topology {
  /** edges with a face on one side only */
  openEdges: number;
  /** edges that more than two faces share */
  nonManifoldEdges: number;
  /** edges whose two faces run along it the same way: one of them faces the wrong way */
  flippedEdges: number;
  /** triangles with two corners in one place */
  collapsedFaces: number;
  /** triangles that stand on the same three places as an earlier one */
  doubledFaces: number;
  /** no open and no non-manifold edge, and at least one face */
  closed: boolean;
}

/** Edge and face counts over welded vertices. Time is linear in the faces. */
export function topologyOf(mesh: Mesh, joined: Weld = weld(mesh.positions)): Topology {
  const { indices } = mesh;
  const counts = { openEdges: 0, nonManifoldEdges: 0, flippedEdges: 0, collapsedFaces: 0, doubledFaces: 0 };
  for (let f = 0; f < indices.length; f += 3) {
    const a = joined.remap[indices[f]!]!;
    const b = joined.remap[indices[f + 1]!]!;
    const c = joined.remap[indices[f + 2]!]!;
    if (a === b || b === c || c === a) counts.collapsedFaces++;
  }
  const placeOf = (corner: number) => joined.remap[indices[corner]!]!;
  eachEdge(indices, joined, (sides, count) => {
    counts.doubledFaces += copiesAt(sides, count, placeOf);
    if (count === 1) counts.openEdges++;
    else if (count > 2) counts.nonManifoldEdges++;
    // Both run along it from the same end.
    else if (placeOf(sides[0]!) === placeOf(sides[1]!)) counts.flippedEdges++;
  });
  const faces = indices.length / 3 - counts.collapsedFaces;
  const closed = counts.openEdges === 0 && counts.nonManifoldEdges === 0 && faces > 0;
  return { ...counts, closed };
}

/** Of the faces at an edge that have their two lower places there, how many stand on the same places as one before. */
function copiesAt(sides: readonly number[], count: number, placeOf: (corner: number) => number): number {
  const apexOf = (side: number) => placeOf(side - (side % 3) + ((side + 2) % 3));
  const topOf = (side: number) => Math.max(placeOf(side), placeOf(side % 3 === 2 ? side - 2 : side + 1));
  if (count < 2) return 0;
  const top = topOf(sides[0]!);
  // Nearly all edges have two faces.
  if (count === 2) return apexOf(sides[0]!) === apexOf(sides[1]!) && apexOf(sides[0]!) > top ? 1 : 0;
  const apexes = sides
    .slice(0, count)
    .map(apexOf)
    .filter((apex) => apex > top);
  return apexes.length - new Set(apexes).size;
}
