import { faceNormals } from './compute-normals.js';
import type { Mesh } from './mesh.js';
import { pickVertices, shareVertices } from './take-faces.js';

/** How a picture lies on a surface. Densities are picture widths a unit of length. */
export interface UvMeasure {
  /** median over the area, picture widths a unit */
  density: number;
  /** share of the area whose density is more than twice or less than half the median */
  uneven: number;
  /** share of the area that is stretched more than 1 to 2 in one direction, or has no UVs to speak of */
  stretched: number;
}

/** Density and stretch of a UV set; null when the mesh has none. */
export function measureUvs(mesh: Mesh, set = 0): UvMeasure | null {
  const uv = mesh.uvs[set];
  if (!uv) return null;
  const { positions: p, indices } = mesh;
  const faces: { area: number; density: number; ratio: number }[] = [];
  let total = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i]!, indices[i + 1]!, indices[i + 2]!];
    const e1 = [0, 1, 2].map((k) => p[b * 3 + k]! - p[a * 3 + k]!);
    const e2 = [0, 1, 2].map((k) => p[c * 3 + k]! - p[a * 3 + k]!);
    // The triangle flat in its own plane: e1 along x.
    const x1 = Math.hypot(...e1);
    if (x1 === 0) continue;
    const x2 = e1.reduce((sum, v, k) => sum + v * e2[k]!, 0) / x1;
    const y2 = Math.sqrt(Math.max(0, e2.reduce((sum, v) => sum + v * v, 0) - x2 * x2));
    const area = (x1 * y2) / 2;
    if (!(area > 0)) continue;
    const [u1, v1] = [uv[b * 2]! - uv[a * 2]!, uv[b * 2 + 1]! - uv[a * 2 + 1]!];
    const [u2, v2] = [uv[c * 2]! - uv[a * 2]!, uv[c * 2 + 1]! - uv[a * 2 + 1]!];
    // Jacobian from the surface to the picture; its singular values are the densities both ways.
    const [j11, j21] = [u1 / x1, v1 / x1];
    const [j12, j22] = [(u2 - j11 * x2) / y2, (v2 - j21 * x2) / y2];
    const half = (j11 * j11 + j12 * j12 + j21 * j21 + j22 * j22) / 2;
    const det = Math.abs(j11 * j22 - j12 * j21);
    const root = Math.sqrt(Math.max(0, half * half - det * det));
    const [large, small] = [Math.sqrt(half + root), Math.sqrt(Math.max(0, half - root))];
    faces.push({ area, density: Math.sqrt(det), ratio: small > 0 ? large / small : Infinity });
    total += area;
  }
  if (faces.length === 0) return null;
  faces.sort((a, b) => a.density - b.density);
  let sum = 0;
  const density = faces.find((face) => (sum += face.area) >= total / 2)!.density;
  const areaWhere = (test: (face: (typeof faces)[number]) => boolean) =>
    faces.reduce((area, face) => area + (test(face) ? face.area : 0), 0) / total;
  return {
    density,
    uneven: areaWhere((face) => face.density > density * 2 || face.density < density / 2),
    stretched: areaWhere((face) => face.ratio > 2),
  };
}

/**
 * UVs laid on from the side each face looks to most, `unitsPerPicture` a picture's width. Vertices are
 * doubled where the side changes; other UV sets stay.
 */
export function boxProjection(mesh: Mesh, unitsPerPicture: number): Mesh {
  const normals = faceNormals(mesh.positions, mesh.indices);
  const out: Mesh = {
    ...pickVertices(mesh, mesh.indices),
    indices: Uint32Array.from(mesh.indices, (_, i) => i),
  };
  const uv = new Float32Array(mesh.indices.length * 2);
  for (let f = 0; f < mesh.indices.length / 3; f++) {
    const size = [0, 1, 2].map((k) => Math.abs(normals[f * 3 + k]!)) as [number, number, number];
    const axis = size[1] >= size[0] && size[1] >= size[2] ? 1 : size[0] >= size[2] ? 0 : 2;
    const sign = normals[f * 3 + axis]! < 0 ? -1 : 1;
    for (let corner = f * 3; corner < f * 3 + 3; corner++) {
      const [x, y, z] = [0, 1, 2].map((k) => out.positions[corner * 3 + k]! / unitsPerPicture) as [
        number,
        number,
        number,
      ];
      uv[corner * 2] = axis === 0 ? -z * sign : axis === 1 ? x : x * sign;
      uv[corner * 2 + 1] = axis === 1 ? z * sign : -y;
    }
  }
  out.uvs = [uv, ...out.uvs.slice(1)];
  delete out.tangents;
  return shareVertices(out);
}
