import { faceNormals } from './compute-normals.js';
import type { Mesh } from './mesh.js';

/** Unit normals of the faces, zero for those without area. Shape: [3t]. */
export function unitFaceNormals({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): Float64Array {
  const normals = faceNormals(positions, indices);
  for (let i = 0; i < normals.length; i += 3) {
    const l = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!) || 1;
    for (let k = 0; k < 3; k++) normals[i + k]! /= l;
  }
  return normals;
}

/** The angle of every corner, radians; 0 where a side has no length. Shape: [3t]. */
export function cornerAngles({ positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>): Float64Array {
  return Float64Array.from(indices, (a, corner) => {
    const first = corner - (corner % 3);
    return angleAt(p, a, indices[first + ((corner + 1) % 3)]!, indices[first + ((corner + 2) % 3)]!);
  });
}

function angleAt(p: Float64Array, a: number, b: number, c: number): number {
  let dot = 0;
  let u = 0;
  let v = 0;
  for (let k = 0; k < 3; k++) {
    const s = p[b * 3 + k]! - p[a * 3 + k]!;
    const t = p[c * 3 + k]! - p[a * 3 + k]!;
    dot += s * t;
    u += s * s;
    v += t * t;
  }
  return u > 0 && v > 0 ? Math.acos(Math.min(1, Math.max(-1, dot / Math.sqrt(u * v)))) : 0;
}
