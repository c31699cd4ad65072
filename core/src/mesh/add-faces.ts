import { computeNormals } from './compute-normals.js';
import { mergeGroups } from './join-meshes.js';
import type { Mesh } from './mesh.js';
import { pickVertices } from './take-faces.js';

/**
 * The mesh with triangles added between its vertices, which they get copies of: new faces have flat normals of their
 * own and the material of the first group.
 *
 * @param corners three vertex numbers a triangle
 */
export function addFaces(mesh: Mesh, corners: readonly number[]): Mesh {
  if (corners.length === 0) return mesh;
  const n = mesh.positions.length / 3;
  const t = mesh.indices.length / 3;
  const picks = new Uint32Array(n + corners.length);
  for (let v = 0; v < n; v++) picks[v] = v;
  picks.set(corners, n);
  const indices = new Uint32Array(mesh.indices.length + corners.length);
  indices.set(mesh.indices);
  for (let i = 0; i < corners.length; i++) indices[mesh.indices.length + i] = n + i;
  const added: Mesh = {
    ...pickVertices(mesh, picks),
    indices,
    groups: [
      ...mesh.groups,
      { material: mesh.groups[0]?.material ?? -1, start: t, count: corners.length / 3 },
    ],
  };
  if (added.normals) {
    const flat = computeNormals({ ...added, indices: indices.subarray(mesh.indices.length) });
    added.normals.set(flat.subarray(n * 3), n * 3);
  }
  delete added.tangents;
  return mergeGroups(added);
}
