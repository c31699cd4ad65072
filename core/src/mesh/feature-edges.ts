import { faceNormals } from './compute-normals.js';
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
  let size = 16;
  while (size < faces * 3) size *= 2;
  const mask = size - 1;
  const low = new Int32Array(size).fill(-1);
  const high = new Int32Array(size);
  /** first face of the edge; -1 once it is known to be smooth, -2 once it is known to be sharp */
  const face = new Int32Array(size);
  for (let f = 0; f < faces; f++) {
    for (let k = 0; k < 3; k++) {
      const from = remap[indices[f * 3 + k]!]!;
      const to = remap[indices[f * 3 + ((k + 1) % 3)]!]!;
      if (from === to) continue;
      const a = Math.min(from, to);
      const b = Math.max(from, to);
      let slot = ((Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 7) & mask;
      while (low[slot] !== -1 && (low[slot] !== a || high[slot] !== b)) slot = (slot + 1) & mask;
      if (low[slot] === -1) {
        low[slot] = a;
        high[slot] = b;
        face[slot] = f;
      } else if (face[slot]! >= 0) {
        const g = face[slot]! * 3;
        const cosine =
          normals[g]! * normals[f * 3]! +
          normals[g + 1]! * normals[f * 3 + 1]! +
          normals[g + 2]! * normals[f * 3 + 2]!;
        face[slot] = cosine < limit ? -2 : -1;
      }
    }
  }
  const edges: number[] = [];
  for (let slot = 0; slot < size; slot++) {
    if (low[slot] !== -1 && face[slot] !== -1) edges.push(first[low[slot]!]!, first[high[slot]!]!);
  }
  return Uint32Array.from(edges);
}

/** Unit normals, zero for faces without area. Shape: [3t]. */
function unitFaceNormals({ positions, indices }: Mesh): Float64Array {
  const normals = faceNormals(positions, indices);
  for (let i = 0; i < normals.length; i += 3) {
    const l = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!) || 1;
    for (let k = 0; k < 3; k++) normals[i + k]! /= l;
  }
  return normals;
}
