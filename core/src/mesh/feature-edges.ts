import { unitFaceNormals } from './corner-weights.js';
import { EdgeTable } from './edge-table.js';
import type { Mesh } from './mesh.js';
import { weld } from './weld.js';

/**
 * The edges worth inking: borders, and edges where two faces meet at more than `angleRadians`.
 * Shape: [2e] vertex numbers of the mesh.
 */
export function featureEdges(mesh: Mesh, angleRadians = Math.PI / 6): Uint32Array {
  const { positions, indices } = mesh;
  const { remap, first } = weld(positions);
  const limit = Math.cos(angleRadians);
  const faces = indices.length / 3;
  const normals = unitFaceNormals(mesh);
  const table = new EdgeTable(faces * 3);
  /** first face of the edge; -1 once it is known to be smooth, -2 once it is known to be sharp */
  const face = new Int32Array(faces * 3).fill(-3);
  for (let f = 0; f < faces; f++) {
    for (let k = 0; k < 3; k++) {
      const from = remap[indices[f * 3 + k]!]!;
      const to = remap[indices[f * 3 + ((k + 1) % 3)]!]!;
      if (from === to) continue;
      const edge = table.edge(from, to);
      if (face[edge] === -3) face[edge] = f;
      else if (face[edge]! >= 0) {
        const g = face[edge]! * 3;
        const cosine =
          normals[g]! * normals[f * 3]! +
          normals[g + 1]! * normals[f * 3 + 1]! +
          normals[g + 2]! * normals[f * 3 + 2]!;
        face[edge] = cosine < limit ? -2 : -1;
      }
    }
  }
  const edges: number[] = [];
  for (let edge = 0; edge < table.count; edge++) {
    if (face[edge] !== -1) edges.push(first[table.low[edge]!]!, first[table.high[edge]!]!);
  }
  return Uint32Array.from(edges);
}
