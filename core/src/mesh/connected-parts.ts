import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/** The connected surfaces of a mesh. */
export interface ConnectedParts {
  /** how many there are */
  count: number;
  /** [t]: the part of each triangle; parts are numbered by their first triangle */
  ofTriangle: Uint32Array;
}

/** Triangles that share a welded vertex belong together. (Union-find with path halving.) */
export function connectedParts(mesh: Mesh, joined: Weld = weld(mesh.positions)): ConnectedParts {
  const { indices } = mesh;
  const parent = new Uint32Array(joined.count);
  for (let i = 0; i < parent.length; i++) parent[i] = i;
  const root = (v: number): number => {
    while (parent[v] !== v) {
      parent[v] = parent[parent[v]!]!;
      v = parent[v]!;
    }
    return v;
  };
  const join = (a: number, b: number): void => {
    const ra = root(a);
    const rb = root(b);
    if (ra < rb) parent[rb] = ra;
    else parent[ra] = rb;
  };
  for (let i = 0; i < indices.length; i += 3) {
    const a = joined.remap[indices[i]!]!;
    join(a, joined.remap[indices[i + 1]!]!);
    join(a, joined.remap[indices[i + 2]!]!);
  }
  const number = new Int32Array(joined.count).fill(-1);
  const ofTriangle = new Uint32Array(indices.length / 3);
  let count = 0;
  for (let t = 0; t < ofTriangle.length; t++) {
    const r = root(joined.remap[indices[t * 3]!]!);
    if (number[r]! < 0) number[r] = count++;
    ofTriangle[t] = number[r]!;
  }
  return { count, ofTriangle };
}

/** The points of each part, packed: one [3k] array a part, each place once. */
export function pointsOfParts(mesh: Mesh, parts: ConnectedParts, joined: Weld): Float64Array[] {
  const partOfVertex = new Int32Array(joined.count).fill(-1);
  const sizes = new Uint32Array(parts.count);
  for (let i = 0; i < mesh.indices.length; i++) {
    const v = joined.remap[mesh.indices[i]!]!;
    if (partOfVertex[v]! >= 0) continue;
    const part = parts.ofTriangle[(i / 3) | 0]!;
    partOfVertex[v] = part;
    sizes[part]!++;
  }
  const points = Array.from(sizes, (size) => new Float64Array(size * 3));
  const filled = new Uint32Array(parts.count);
  for (let v = 0; v < joined.count; v++) {
    const part = partOfVertex[v]!;
    if (part < 0) continue;
    const source = joined.first[v]! * 3;
    points[part]!.set(mesh.positions.subarray(source, source + 3), filled[part]! * 3);
    filled[part]!++;
  }
  return points;
}
