import { unitFaceNormals } from './corner-weights.js';
import { faceNeighbours } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/**
 * The edges worth inking: borders, edges of more than two faces, and edges where two faces meet at more than
 * `angleRadians`. Shape: [2e] vertex numbers of the mesh.
 *
 * @param neighbours of the faces, as `faceNeighbours` tells them
 */
export function featureEdges(
  mesh: Mesh,
  joined: Weld = weld(mesh.positions),
  neighbours: Int32Array = faceNeighbours(mesh, joined),
  angleRadians = Math.PI / 6,
): Uint32Array {
  const { indices } = mesh;
  const { remap, first } = joined;
  const limit = Math.cos(angleRadians);
  const normals = unitFaceNormals(mesh);
  const edges: number[] = [];
  for (let side = 0; side < indices.length; side++) {
    const [f, g] = [(side / 3) | 0, neighbours[side]!];
    // Where two faces meet the first of them tells.
    if (g >= 0 && (g < f || cosine(normals, f, g) >= limit)) continue;
    const [from, to] = [remap[indices[side]!]!, remap[indices[f * 3 + ((side + 1) % 3)]!]!];
    if (from !== to) edges.push(first[from]!, first[to]!);
  }
  return Uint32Array.from(edges);
}

const cosine = (normals: Float64Array, f: number, g: number): number =>
  normals[f * 3]! * normals[g * 3]! +
  normals[f * 3 + 1]! * normals[g * 3 + 1]! +
  normals[f * 3 + 2]! * normals[g * 3 + 2]!;
