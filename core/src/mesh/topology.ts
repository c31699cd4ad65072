import { EdgeTable } from './edge-table.js';
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

/** Edge counts over welded vertices, by open addressing over flat tables. Time is linear in the faces. */
export function topologyOf(mesh: Mesh, joined: Weld = weld(mesh.positions)): Topology {
  const { indices } = mesh;
  const faces = indices.length / 3;
  const edges = new EdgeTable(indices.length);
  const uses = new Uint8Array(indices.length);
  const balance = new Int8Array(indices.length);
  const counts = { openEdges: 0, nonManifoldEdges: 0, flippedEdges: 0, collapsedFaces: 0, doubledFaces: 0 };
  const seenFaces = new FaceSet(faces);

  const useEdge = (from: number, to: number): void => {
    const edge = edges.edge(from, to);
    if (uses[edge]! < 255) uses[edge]!++;
    balance[edge]! += from < to ? 1 : -1;
  };

  for (let f = 0; f < faces; f++) {
    const a = joined.remap[indices[f * 3]!]!;
    const b = joined.remap[indices[f * 3 + 1]!]!;
    const c = joined.remap[indices[f * 3 + 2]!]!;
    if (a === b || b === c || c === a) {
      counts.collapsedFaces++;
      continue;
    }
    if (!seenFaces.add(a, b, c)) counts.doubledFaces++;
    useEdge(a, b);
    useEdge(b, c);
    useEdge(c, a);
  }
  for (let edge = 0; edge < edges.count; edge++) {
    if (uses[edge] === 1) counts.openEdges++;
    else if (uses[edge]! > 2) counts.nonManifoldEdges++;
    else if (uses[edge] === 2 && balance[edge] !== 0) counts.flippedEdges++;
  }
  const closed = counts.openEdges === 0 && counts.nonManifoldEdges === 0 && faces > counts.collapsedFaces;
  return { ...counts, closed };
}

/** A set of unordered vertex triples. */
class FaceSet {
  private readonly table: Int32Array;
  private readonly mask: number;

  constructor(capacity: number) {
    let size = 16;
    while (size < capacity * 2) size *= 2;
    this.table = new Int32Array(size * 3).fill(-1);
    this.mask = size - 1;
  }

  /** False when the triple was there already. */
  add(a: number, b: number, c: number): boolean {
    const low = Math.min(a, b, c);
    const high = Math.max(a, b, c);
    const middle = a + b + c - low - high;
    let slot =
      ((Math.imul(low, 0x9e3779b1) ^ Math.imul(middle, 0x85ebca6b) ^ Math.imul(high, 0xc2b2ae35)) >>> 5) &
      this.mask;
    const { table } = this;
    while (table[slot * 3] !== -1) {
      if (table[slot * 3] === low && table[slot * 3 + 1] === middle && table[slot * 3 + 2] === high)
        return false;
      slot = (slot + 1) & this.mask;
    }
    table[slot * 3] = low;
    table[slot * 3 + 1] = middle;
    table[slot * 3 + 2] = high;
    return true;
  }
}
