import { determinant3, type Matrix, normalMatrix } from '../math/index.js';
import type { Mesh } from './mesh.js';

/**
 * The mesh with every vertex carried through `matrix`: positions as points, normals by the
 * cofactors (right even under shear), tangents as directions. A matrix that mirrors turns the
 * faces around, so that outward stays outward.
 */
export function transformMesh(mesh: Mesh, matrix: Matrix): Mesh {
  const mirrored = determinant3(matrix) < 0;
  return {
    ...mesh,
    positions: transformPoints(mesh.positions, matrix),
    indices: mirrored ? reversedFaces(mesh.indices) : mesh.indices,
    normals: mesh.normals && transformNormals(mesh.normals, matrix),
    tangents: mesh.tangents && transformTangents(mesh.tangents, matrix, mirrored),
  };
}

/** Packed points through a matrix. Shape: [3n] -> [3n]. */
export function transformPoints(points: Float64Array, m: Matrix): Float64Array {
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 3) {
    const x = points[i]!;
    const y = points[i + 1]!;
    const z = points[i + 2]!;
    out[i] = m[0]! * x + m[4]! * y + m[8]! * z + m[12]!;
    out[i + 1] = m[1]! * x + m[5]! * y + m[9]! * z + m[13]!;
    out[i + 2] = m[2]! * x + m[6]! * y + m[10]! * z + m[14]!;
  }
  return out;
}

/** The same triangles seen from behind. */
export function reversedFaces(indices: Uint32Array): Uint32Array {
  const out = indices.slice();
  for (let i = 0; i < out.length; i += 3) {
    out[i + 1] = indices[i + 2]!;
    out[i + 2] = indices[i + 1]!;
  }
  return out;
}

function transformNormals(normals: Float32Array, matrix: Matrix): Float32Array {
  const m = normalMatrix(matrix);
  const out = new Float32Array(normals.length);
  for (let i = 0; i < normals.length; i += 3) turnUnit(normals, i, m, 3, out);
  return out;
}

function transformTangents(tangents: Float32Array, matrix: Matrix, mirrored: boolean): Float32Array {
  const out = new Float32Array(tangents.length);
  for (let i = 0; i < tangents.length; i += 4) {
    turnUnit(tangents, i, matrix, 4, out);
    out[i + 3] = mirrored ? -tangents[i + 3]! : tangents[i + 3]!;
  }
  return out;
}

/** One direction through the columns of `m` (columns `stride` apart), brought back to length 1. */
function turnUnit(from: Float32Array, at: number, m: Float64Array, stride: number, to: Float32Array): void {
  const x = from[at]!;
  const y = from[at + 1]!;
  const z = from[at + 2]!;
  const nx = m[0]! * x + m[stride]! * y + m[2 * stride]! * z;
  const ny = m[1]! * x + m[stride + 1]! * y + m[2 * stride + 1]! * z;
  const nz = m[2]! * x + m[stride + 2]! * y + m[2 * stride + 2]! * z;
  const l = Math.hypot(nx, ny, nz) || 1;
  to[at] = nx / l;
  to[at + 1] = ny / l;
  to[at + 2] = nz / l;
}
