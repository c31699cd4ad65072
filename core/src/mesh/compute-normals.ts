import type { Mesh } from './mesh.js';

/** Vertex normals, area-weighted over the triangles of each vertex. Shape: [3n]; unused vertices point up. */
export function computeNormals(mesh: Mesh): Float32Array {
  const { positions, indices } = mesh;
  const sums = new Float64Array(positions.length);
  for (let i = 0; i < indices.length; i += 3) {
    const a = indices[i]! * 3;
    const b = indices[i + 1]! * 3;
    const c = indices[i + 2]! * 3;
    const ux = positions[b]! - positions[a]!,
      uy = positions[b + 1]! - positions[a + 1]!,
      uz = positions[b + 2]! - positions[a + 2]!;
    const vx = positions[c]! - positions[a]!,
      vy = positions[c + 1]! - positions[a + 1]!,
      vz = positions[c + 2]! - positions[a + 2]!;
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    for (const v of [a, b, c]) {
      sums[v]! += nx;
      sums[v + 1]! += ny;
      sums[v + 2]! += nz;
    }
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
