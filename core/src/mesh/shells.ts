import { UnionFind } from '../math/index.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/** The connected surfaces of a mesh. */
export interface Shells {
  /** how many there are */
  count: number;
  /** [t]: the shell of each triangle; shells are numbered by their first triangle */
  ofTriangle: Uint32Array;
}

/** Triangles that share a welded vertex belong together. */
export function shellsOf(mesh: Mesh, joined: Weld = weld(mesh.positions)): Shells {
  const { indices } = mesh;
  const sets = new UnionFind(joined.count);
  for (let i = 0; i < indices.length; i += 3) {
    const a = joined.remap[indices[i]!]!;
    sets.join(a, joined.remap[indices[i + 1]!]!);
    sets.join(a, joined.remap[indices[i + 2]!]!);
  }
  const number = new Int32Array(joined.count).fill(-1);
  const ofTriangle = new Uint32Array(indices.length / 3);
  let count = 0;
  for (let t = 0; t < ofTriangle.length; t++) {
    const r = sets.root(joined.remap[indices[t * 3]!]!);
    if (number[r]! < 0) number[r] = count++;
    ofTriangle[t] = number[r]!;
  }
  return { count, ofTriangle };
}

/** The points of each shell, packed: one [3k] array a shell, each place once. */
export function pointsOfShells(mesh: Mesh, shells: Shells, joined: Weld): Float64Array[] {
  const shellOfVertex = new Int32Array(joined.count).fill(-1);
  const sizes = new Uint32Array(shells.count);
  for (let i = 0; i < mesh.indices.length; i++) {
    const v = joined.remap[mesh.indices[i]!]!;
    if (shellOfVertex[v]! >= 0) continue;
    const shell = shells.ofTriangle[(i / 3) | 0]!;
    shellOfVertex[v] = shell;
    sizes[shell]!++;
  }
  const points = Array.from(sizes, (size) => new Float64Array(size * 3));
  const filled = new Uint32Array(shells.count);
  for (let v = 0; v < joined.count; v++) {
    const shell = shellOfVertex[v]!;
    if (shell < 0) continue;
    const source = joined.first[v]! * 3;
    points[shell]!.set(mesh.positions.subarray(source, source + 3), filled[shell]! * 3);
    filled[shell]!++;
  }
  return points;
}
