import { areaVector } from '../math/index.js';
import type { Mesh } from './mesh.js';

/** Vertex normals, area-weighted over the triangles of each vertex. Shape: [3n]; unused vertices point up. */
export function computeNormals({ positions, indices }: Mesh): Float32Array {
  const faces = faceNormals(positions, indices);
  const sums = new Float64Array(positions.length);
  for (let i = 0; i < indices.length; i++) {
    const v = indices[i]! * 3;
    const face = i - (i % 3);
    sums[v]! += faces[face]!;
    sums[v + 1]! += faces[face + 1]!;
    sums[v + 2]! += faces[face + 2]!;
  }
  const normals = new Float32Array(positions.length);
  for (let v = 0; v < sums.length; v += 3) {
    const l = Math.hypot(sums[v]!, sums[v + 1]!, sums[v + 2]!);
    normals[v] = l > 0 ? sums[v]! / l : 0;
    normals[v + 1] = l > 0 ? sums[v + 1]! / l : 1;
    normals[v + 2] = l > 0 ? sums[v + 2]! / l : 0;
  }
  return normals;
}

/** Normals of the triangles, twice their area long. Shape: [3t]. */
export function faceNormals(p: Float64Array | Float32Array, indices: Uint32Array): Float64Array {
  const normals = new Float64Array(indices.length);
  for (let i = 0; i < indices.length; i += 3) {
    const a = indices[i]! * 3;
    const b = indices[i + 1]! * 3;
    const c = indices[i + 2]! * 3;
    normals.set(areaVector(p, a, b, c), i);
  }
  return normals;
}
