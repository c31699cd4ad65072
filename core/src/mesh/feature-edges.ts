import { unitFaceNormals } from './corner-weights.js';
import { faceNeighbours, MANY_NEIGHBOURS } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

const SHARP_COSINE = Math.cos(Math.PI / 6);

/**
 * The edges worth inking: borders, and edges where two faces meet at more than 30 degrees; of more faces than two the
 * first two tell. Shape: [2e] vertex numbers of the mesh.
 *
 * @param neighbours of the faces, as `faceNeighbours` tells them
 */
export function featureEdges(
  mesh: Mesh,
  joined: Weld = weld(mesh.positions),
  neighbours: Int32Array = faceNeighbours(mesh, joined),
): Uint32Array {
  const { indices } = mesh;
  const { remap, first } = joined;
  const normals = unitFaceNormals(mesh);
  const edges: number[] = [];
  /** the first face of each edge of many, -1 once its second was met */
  const met = new Map<number, number>();
  for (let side = 0; side < indices.length; side++) {
    const f = (side / 3) | 0;
    const [from, to] = [remap[indices[side]!]!, remap[indices[f * 3 + ((side + 1) % 3)]!]!];
    if (from === to) continue;
    let g = neighbours[side]!;
    if (g === MANY_NEIGHBOURS) {
      const edge = Math.min(from, to) * first.length + Math.max(from, to);
      const before = met.get(edge);
      met.set(edge, before === undefined ? f : -1);
      if (before === undefined || before < 0) continue;
      g = before;
    } else if (g >= 0 && g < f) continue;
    if (g < 0 || cosine(normals, f, g) < SHARP_COSINE) edges.push(first[from]!, first[to]!);
  }
  return Uint32Array.from(edges);
}

const cosine = (normals: Float64Array, f: number, g: number): number =>
  normals[f * 3]! * normals[g * 3]! +
  normals[f * 3 + 1]! * normals[g * 3 + 1]! +
  normals[f * 3 + 2]! * normals[g * 3 + 2]!;
