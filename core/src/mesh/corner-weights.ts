import { faceNormals } from './compute-normals.js';
import type { Mesh } from './mesh.js';

/** Unit normals of the faces, zero for those without area. Shape: [3t]. */
export function unitFaceNormals({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): Float64Array {
  const normals = faceNormals(positions, indices);
  for (let i = 0; i < normals.length; i += 3) {
    const [x, y, z] = [normals[i]!, normals[i + 1]!, normals[i + 2]!];
    const l = Math.sqrt(x * x + y * y + z * z) || 1;
    normals[i] = x / l;
    normals[i + 1] = y / l;
    normals[i + 2] = z / l;
  }
  return normals;
}

/** The angle of every corner, radians; 0 where a side has no length. Shape: [3t]. */
export function cornerAngles({ positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>): Float64Array {
  const angles = new Float64Array(indices.length);
  for (let i = 0; i + 2 < angles.length; i += 3) {
    const [a, b, c] = [indices[i]!, indices[i + 1]!, indices[i + 2]!];
    angles[i] = angleAt(p, a, b, c);
    angles[i + 1] = angleAt(p, b, c, a);
    angles[i + 2] = angleAt(p, c, a, b);
  }
  return angles;
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
