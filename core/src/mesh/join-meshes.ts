import type { Mesh, SurfaceGroup } from './mesh.js';
import { computeNormals } from './compute-normals.js';

/**
 * Several meshes as one, in their order; groups with one material are brought together.
 *
 * What only some of them have is filled for the rest: normals are computed, UVs are zero,
 * colours white. Tangents survive only when all have them: they cannot be made up.
 */
export function joinMeshes(meshes: readonly Mesh[]): Mesh {
  if (meshes.length === 1) return mergeGroups(meshes[0]!);
  const vertices = meshes.reduce((sum, m) => sum + m.positions.length / 3, 0);
  const corners = meshes.reduce((sum, m) => sum + m.indices.length, 0);
  const joined: Mesh = {
    positions: new Float64Array(vertices * 3),
    indices: new Uint32Array(corners),
    uvs: Array.from(
      { length: Math.max(0, ...meshes.map((m) => m.uvs.length)) },
      () => new Float32Array(vertices * 2),
    ),
    groups: [],
  };
  if (meshes.some((m) => m.normals)) joined.normals = new Float32Array(vertices * 3);
  if (meshes.some((m) => m.colors)) joined.colors = new Float32Array(vertices * 4).fill(1);
  if (meshes.length > 0 && meshes.every((m) => m.tangents)) joined.tangents = new Float32Array(vertices * 4);

  let vertex = 0;
  let corner = 0;
  for (const mesh of meshes) {
    joined.positions.set(mesh.positions, vertex * 3);
    for (let i = 0; i < mesh.indices.length; i++) joined.indices[corner + i] = mesh.indices[i]! + vertex;
    joined.normals?.set(mesh.normals ?? computeNormals(mesh), vertex * 3);
    if (mesh.colors) joined.colors?.set(mesh.colors, vertex * 4);
    if (mesh.tangents) joined.tangents?.set(mesh.tangents, vertex * 4);
    mesh.uvs.forEach((uv, set) => joined.uvs[set]!.set(uv, vertex * 2));
    for (const group of mesh.groups) joined.groups.push({ ...group, start: group.start + corner / 3 });
    vertex += mesh.positions.length / 3;
    corner += mesh.indices.length;
  }
  return mergeGroups(joined);
}

/** The same triangles with one group a material, in order of each material's first triangle. */
export function mergeGroups(mesh: Mesh): Mesh {
  const order = mergeOrder(mesh.groups);
  if (!order) return mesh;
  const indices = new Uint32Array(mesh.indices.length);
  let at = 0;
  const groups = order.map(({ material, runs }) => {
    const start = at / 3;
    for (const run of runs) {
      indices.set(mesh.indices.subarray(run.start * 3, (run.start + run.count) * 3), at);
      at += run.count * 3;
    }
    return { material, start, count: at / 3 - start };
  });
  return { ...mesh, indices, groups };
}

/** The runs of each material in the order `mergeGroups` gives them; null when nothing has to move. */
export function mergeOrder(
  groups: readonly SurfaceGroup[],
): { material: number; runs: SurfaceGroup[] }[] | null {
  const byMaterial = new Map<number, SurfaceGroup[]>();
  for (const group of groups) {
    if (group.count === 0) continue;
    const known = byMaterial.get(group.material);
    if (known) known.push(group);
    else byMaterial.set(group.material, [group]);
  }
  if (byMaterial.size === groups.length) return null;
  return [...byMaterial].map(([material, runs]) => ({ material, runs }));
}
