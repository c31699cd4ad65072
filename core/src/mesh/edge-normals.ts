import { UnionFind } from '../math/index.js';
import { cornerAngles, unitFaceNormals } from './corner-weights.js';
import { faceNeighbours } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { separateVertices, shareVertices } from './take-faces.js';
import { weld } from './weld.js';

export interface EdgeNormalOptions {
  /** faces that meet at more are set apart by a hard edge. Default 30 degrees */
  angleRadians?: number;
  /** sides (3 * face + k) that are hard whatever their angle */
  hard?: readonly number[];
  /** sides that are smooth whatever their angle */
  smooth?: readonly number[];
}

/**
 * Normals by hard and smooth edges: round every vertex, corners that smooth edges join share one normal,
 * weighted by the angle of each corner. (Thürmer and Wüthrich, "Computing vertex normals from polygonal
 * facets", 1998.) Vertices are doubled along hard edges; what else they carry stays.
 */
export function edgeNormals(
  mesh: Mesh,
  { angleRadians = Math.PI / 6, hard = [], smooth = [] }: EdgeNormalOptions = {},
): Mesh {
  const joined = weld(mesh.positions);
  const neighbours = faceNeighbours(mesh, joined);
  const { indices } = mesh;
  const normals = unitFaceNormals(mesh);
  const angles = cornerAngles(mesh);
  const limit = Math.cos(angleRadians) - 1e-9;
  const hardSides = new Set(hard);
  const smoothSides = new Set(smooth);
  const place = (corner: number) => joined.remap[indices[corner]!]!;
  const next = (corner: number) => (corner % 3 === 2 ? corner - 2 : corner + 1);

  const fans = new UnionFind(indices.length);
  for (let side = 0; side < indices.length; side++) {
    const other = neighbours[side]!;
    const face = (side / 3) | 0;
    if (other < face) continue;
    let twin = -1;
    for (let k = other * 3; k < other * 3 + 3; k++)
      if (neighbours[k] === face && (place(k) === place(next(side)) || place(k) === place(side))) twin = k;
    if (twin < 0) continue;
    const isSmooth = smoothSides.has(side) || smoothSides.has(twin);
    const isHard = hardSides.has(side) || hardSides.has(twin);
    let dot = 0;
    for (let k = 0; k < 3; k++) dot += normals[face * 3 + k]! * normals[other * 3 + k]!;
    if (isHard || (!isSmooth && dot < limit)) continue;
    const sameWay = place(twin) === place(side);
    fans.join(side, sameWay ? twin : next(twin));
    fans.join(next(side), sameWay ? next(twin) : twin);
  }

  const sums = new Float64Array(indices.length * 3);
  for (let corner = 0; corner < indices.length; corner++) {
    const face = (corner / 3) | 0;
    const r = fans.root(corner) * 3;
    for (let k = 0; k < 3; k++) sums[r + k]! += normals[face * 3 + k]! * angles[corner]!;
  }
  const out = separateVertices(mesh, indices);
  delete out.tangents;
  out.normals = new Float32Array(indices.length * 3);
  for (let corner = 0; corner < indices.length; corner++) {
    const r = fans.root(corner) * 3;
    const l = Math.hypot(sums[r]!, sums[r + 1]!, sums[r + 2]!);
    out.normals[corner * 3 + 1] = 1;
    if (l > 0) for (let k = 0; k < 3; k++) out.normals[corner * 3 + k] = sums[r + k]! / l;
  }
  return shareVertices(out);
}
