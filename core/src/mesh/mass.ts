import { baseCentreOf, diagonalOf, sixfoldVolume, type Vec3 } from '../math/index.js';
import { type Mesh, meshBounds } from './mesh.js';

/** What a surface encloses and covers, in the cube, square and plain unit of the positions. */
export interface Mass {
  /** signed: negative when the faces look inwards; means nothing for an open surface */
  volume: number;
  area: number;
  /** centroid of the enclosed solid, or of the surface when nothing is enclosed; means nothing for an open surface */
  centroid: Vec3;
  /** centroid of the surface itself: always between the least and the greatest corner */
  surfaceCentroid: Vec3;
  /** triangles with no area to speak of (height below 1e-9 of the piece) */
  zeroAreaFaces: number;
}

/**
 * Volume, area and centroid by the divergence theorem, summed from the middle of the bounds
 * so that a piece far from its origin loses no digits.
 */
export function massOf(mesh: Mesh): Mass {
  const { positions, indices } = mesh;
  const bounds = meshBounds(mesh);
  const from = baseCentreOf(bounds);
  const size = diagonalOf(bounds);
  const flat = size * size * 1e-18;
  let volume = 0;
  let area = 0;
  let zeroAreaFaces = 0;
  const solid: Vec3 = [0, 0, 0];
  const skin: Vec3 = [0, 0, 0];
  for (let i = 0; i < indices.length; i += 3) {
    const a = indices[i]! * 3;
    const b = indices[i + 1]! * 3;
    const c = indices[i + 2]! * 3;
    const ax = positions[a]! - from[0],
      ay = positions[a + 1]! - from[1],
      az = positions[a + 2]! - from[2];
    const bx = positions[b]! - from[0],
      by = positions[b + 1]! - from[1],
      bz = positions[b + 2]! - from[2];
    const cx = positions[c]! - from[0],
      cy = positions[c + 1]! - from[1],
      cz = positions[c + 2]! - from[2];
    const ux = bx - ax,
      uy = by - ay,
      uz = bz - az;
    const vx = cx - ax,
      vy = cy - ay,
      vz = cz - az;
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    const twice = Math.hypot(nx, ny, nz);
    if (twice * twice <= flat * Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz))
      zeroAreaFaces++;
    area += twice / 2;
    const six = ax * nx + ay * ny + az * nz;
    volume += six / 6;
    solid[0] += (six / 24) * (ax + bx + cx);
    solid[1] += (six / 24) * (ay + by + cy);
    solid[2] += (six / 24) * (az + bz + cz);
    skin[0] += (twice / 6) * (ax + bx + cx);
    skin[1] += (twice / 6) * (ay + by + cy);
    skin[2] += (twice / 6) * (az + bz + cz);
  }
  const encloses = Math.abs(volume) > size ** 3 * 1e-12;
  const middle = (sum: Vec3, total: number): Vec3 => [
    from[0] + sum[0] / total,
    from[1] + sum[1] / total,
    from[2] + sum[2] / total,
  ];
  const surfaceCentroid = middle(skin, area || 1);
  const centroid = encloses ? middle(solid, volume) : surfaceCentroid;
  return { volume, area, centroid, surfaceCentroid, zeroAreaFaces };
}

/** Volume inside closed triangles, signed. Shapes: positions [3n], indices [3t]. */
export const trianglesVolume = (positions: ArrayLike<number>, indices: ArrayLike<number>): number =>
  shellVolumes(positions, indices, undefined, 1)[0]!;

/**
 * Signed volume of each part of closed triangles, summed from the first corner.
 *
 * @param partOf [t] the part of each triangle; undefined when all are one
 * @returns [parts]
 */
export function shellVolumes(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  partOf: Uint32Array | undefined,
  parts: number,
): Float64Array {
  const volumes = new Float64Array(parts);
  const from = indices.length ? indices[0]! * 3 : 0;
  const ox = positions[from]!,
    oy = positions[from + 1]!,
    oz = positions[from + 2]!;
  for (let i = 0; i < indices.length; i += 3) {
    const a = indices[i]! * 3;
    const b = indices[i + 1]! * 3;
    const c = indices[i + 2]! * 3;
    const six = sixfoldVolume(positions, a, b, c, ox, oy, oz);
    volumes[partOf ? partOf[i / 3]! : 0]! += six / 6;
  }
  return volumes;
}
