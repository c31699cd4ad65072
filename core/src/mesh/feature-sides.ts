import { unitFaceNormals } from './corner-weights.js';
import { faceNeighbours } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { weld } from './weld.js';

/** What makes an edge one that a person would call so. */
export interface FeatureKinds {
  /** two faces that meet at more than this */
  angleRadians?: number;
  /** two faces of different materials */
  materials?: boolean;
  /** two faces whose places in the first UV set do not meet */
  uvs?: boolean;
  /** open borders */
  borders?: boolean;
}

/** Sides (3 * face + k) of the edges that are of one of some kinds, one an edge, ascending. */
export function featureSides(
  mesh: Mesh,
  { angleRadians, materials = false, uvs = false, borders = false }: FeatureKinds,
  neighbours: Int32Array = faceNeighbours(mesh),
): number[] {
  const normals = angleRadians === undefined ? null : unitFaceNormals(mesh);
  const limit = Math.cos(angleRadians ?? 0) - 1e-9;
  const material = materials ? materialOfFaces(mesh) : null;
  const uv = uvs ? mesh.uvs[0] : undefined;
  const joined = uv ? weld(mesh.positions) : null;
  const next = (side: number) => (side % 3 === 2 ? side - 2 : side + 1);
  const uvMeets = (side: number, other: number): boolean => {
    const at = (corner: number) => joined!.remap[mesh.indices[corner]!]!;
    return [side, next(side)].every((own) => {
      const twin = [0, 1, 2].map((k) => other * 3 + k).find((corner) => at(corner) === at(own));
      if (twin === undefined) return true;
      const [a, b] = [mesh.indices[own]! * 2, mesh.indices[twin]! * 2];
      return Math.abs(uv![a]! - uv![b]!) < 1e-6 && Math.abs(uv![a + 1]! - uv![b + 1]!) < 1e-6;
    });
  };
  const found: number[] = [];
  for (let side = 0; side < neighbours.length; side++) {
    const face = (side / 3) | 0;
    const other = neighbours[side]!;
    if (other < 0) {
      if (borders) found.push(side);
      continue;
    }
    if (other < face) continue;
    const cosine = normals
      ? normals[face * 3]! * normals[other * 3]! +
        normals[face * 3 + 1]! * normals[other * 3 + 1]! +
        normals[face * 3 + 2]! * normals[other * 3 + 2]!
      : 1;
    if (
      (normals && cosine < limit) ||
      (material && material[face] !== material[other]) ||
      (uv && !uvMeets(side, other))
    )
      found.push(side);
  }
  return found;
}

/** [t]: the material of each face */
export function materialOfFaces({ indices, groups }: Pick<Mesh, 'indices' | 'groups'>): Int32Array {
  const material = new Int32Array(indices.length / 3).fill(-1);
  for (const group of groups) material.fill(group.material, group.start, group.start + group.count);
  return material;
}
