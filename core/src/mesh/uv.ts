import { faceNormals } from './compute-normals.js';
import { type Mesh, meshBounds } from './mesh.js';
import { separateVertices, shareVertices } from './take-faces.js';

/** How a picture lies on a surface. Densities are picture widths a unit of length. */
export interface UvMeasure {
  /** median over the area, picture widths a unit */
  density: number;
  /** share of the area whose density is more than twice or less than half the median */
  uneven: number;
  /** share of the area that is stretched more than 1 to 2 in one direction, or has no UVs to speak of */
  stretched: number;
}

/** How a picture lies on one face: picture widths a unit of length, and how much more one way than the other. */
export interface FaceUv {
  area: number;
  density: number;
  /** 1 where it is not stretched; infinite where UVs have no area */
  stretch: number;
}

/** How a UV set lies on each face; null for faces without area. */
export function uvsOfFaces(mesh: Mesh, uv: Float32Array): (FaceUv | null)[] {
  const { positions: p, indices } = mesh;
  return Array.from({ length: indices.length / 3 }, (_, f) => {
    const [a, b, c] = [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!];
    const e1 = [0, 1, 2].map((k) => p[b * 3 + k]! - p[a * 3 + k]!);
    const e2 = [0, 1, 2].map((k) => p[c * 3 + k]! - p[a * 3 + k]!);
    // The triangle flat in its own plane: e1 along x.
    const x1 = Math.hypot(...e1);
    if (x1 === 0) return null;
    const x2 = e1.reduce((sum, v, k) => sum + v * e2[k]!, 0) / x1;
    const y2 = Math.sqrt(Math.max(0, e2.reduce((sum, v) => sum + v * v, 0) - x2 * x2));
    const area = (x1 * y2) / 2;
    if (!(area > 0)) return null;
    const [u1, v1] = [uv[b * 2]! - uv[a * 2]!, uv[b * 2 + 1]! - uv[a * 2 + 1]!];
    const [u2, v2] = [uv[c * 2]! - uv[a * 2]!, uv[c * 2 + 1]! - uv[a * 2 + 1]!];
    // Jacobian from the surface to the picture; its singular values are the densities both ways.
    const [j11, j21] = [u1 / x1, v1 / x1];
    const [j12, j22] = [(u2 - j11 * x2) / y2, (v2 - j21 * x2) / y2];
    const half = (j11 * j11 + j12 * j12 + j21 * j21 + j22 * j22) / 2;
    const det = Math.abs(j11 * j22 - j12 * j21);
    const root = Math.sqrt(Math.max(0, half * half - det * det));
    const [large, small] = [Math.sqrt(half + root), Math.sqrt(Math.max(0, half - root))];
    return { area, density: Math.sqrt(det), stretch: small > 0 ? large / small : Infinity };
  });
}

/** Density and stretch of a UV set; null when the mesh has none. */
export function measureUvs(mesh: Mesh, set = 0): UvMeasure | null {
  const uv = mesh.uvs[set];
  const faces = uv ? uvsOfFaces(mesh, uv).filter((face) => face !== null) : [];
  if (faces.length === 0) return null;
  const total = faces.reduce((sum, { area }) => sum + area, 0);
  faces.sort((a, b) => a.density - b.density);
  let sum = 0;
  const density = faces.find((face) => (sum += face.area) >= total / 2)!.density;
  const areaWhere = (test: (face: FaceUv) => boolean) =>
    faces.reduce((area, face) => area + (test(face) ? face.area : 0), 0) / total;
  return {
    density,
    uneven: areaWhere((face) => face.density > density * 2 || face.density < density / 2),
    stretched: areaWhere((face) => face.stretch > 2),
  };
}

/** How UVs are laid on. */
export type UvProjection = 'box' | 'planar' | 'cylinder';

/**
 * UVs at real size, `unitsPerPicture` a picture's width: from the side each face looks to most (box), from one side
 * (planar), or round an axis through the middle of the bounds (cylinder). Vertices are doubled where the side changes;
 * other UV sets stay.
 *
 * @param axis what is looked along, or turned about: 0, 1, 2
 */
export function projectedUvs(
  mesh: Mesh,
  unitsPerPicture: number,
  { by = 'box', axis = 1, set = 0 }: { by?: UvProjection; axis?: 0 | 1 | 2; set?: number } = {},
): Mesh {
  const out = separateVertices(mesh);
  const uv =
    by === 'cylinder'
      ? roundUvs(out, unitsPerPicture, axis)
      : flatUvs(out, unitsPerPicture, by === 'planar' ? axis : null);
  const uvs = [...out.uvs];
  while (uvs.length < set) uvs.push(new Float32Array(uv.length));
  uvs[set] = uv;
  out.uvs = uvs;
  if (set === 0) delete out.tangents;
  return shareVertices(out);
}

function flatUvs(
  { positions, indices }: Mesh,
  unitsPerPicture: number,
  from: 0 | 1 | 2 | null,
): Float32Array {
  const normals = faceNormals(positions, indices);
  const uv = new Float32Array(indices.length * 2);
  for (let f = 0; f < indices.length / 3; f++) {
    const size = [0, 1, 2].map((k) => Math.abs(normals[f * 3 + k]!)) as [number, number, number];
    const widest = size[1] >= size[0] && size[1] >= size[2] ? 1 : size[0] >= size[2] ? 0 : 2;
    const axis = from ?? widest;
    const sign = from === null && normals[f * 3 + axis]! < 0 ? -1 : 1;
    for (let corner = f * 3; corner < f * 3 + 3; corner++) {
      const [x, y, z] = [0, 1, 2].map((k) => positions[corner * 3 + k]! / unitsPerPicture) as [
        number,
        number,
        number,
      ];
      uv[corner * 2] = axis === 0 ? -z * sign : axis === 1 ? x : x * sign;
      uv[corner * 2 + 1] = axis === 1 ? z * sign : -y;
    }
  }
  return uv;
}

/** Round an axis by the arc at the mean radius; a face on the seam goes on beyond it instead of all the way back. */
function roundUvs(mesh: Mesh, unitsPerPicture: number, axis: 0 | 1 | 2): Float32Array {
  const { positions, indices } = mesh;
  const { min, max } = meshBounds(mesh);
  const [s, t] = [(axis + 1) % 3, (axis + 2) % 3];
  const middle = [s, t].map((k) => (min[k]! + max[k]!) / 2) as [number, number];
  const around = Array.from({ length: indices.length }, (_, corner) => {
    const [x, y] = [positions[corner * 3 + s]! - middle[0], positions[corner * 3 + t]! - middle[1]];
    return { angle: Math.atan2(y, x), radius: Math.hypot(x, y) };
  });
  const radius = around.reduce((sum, each) => sum + each.radius, 0) / (around.length || 1);
  const uv = new Float32Array(indices.length * 2);
  for (let corner = 0; corner < indices.length; corner++) {
    const first = around[corner - (corner % 3)]!.angle;
    const { angle } = around[corner]!;
    const near = angle - Math.round((angle - first) / (2 * Math.PI)) * 2 * Math.PI;
    uv[corner * 2] = (near * radius) / unitsPerPicture;
    uv[corner * 2 + 1] = -positions[corner * 3 + axis]! / unitsPerPicture;
  }
  return uv;
}
