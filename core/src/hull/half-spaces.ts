import { areaVector, type Vec3 } from '../math/index.js';
import { convexHull, type HullResult } from './convex-hull.js';

/**
 * The polyhedron that half-spaces n . x <= d have in common, by duality: planes become points about a place
 * inside, and the faces of their hull become its corners (Preparata and Muller 1979).
 *
 * @param planes [4k], unit normals and offsets; together they bound something
 * @param inside a point strictly inside all of them
 * @returns its corners, [3n]; empty when `inside` is not inside or the planes leave it open
 */
export function halfSpaceCorners(planes: ArrayLike<number>, inside: Readonly<Vec3>): Float64Array {
  const dual = new Float64Array((planes.length / 4) * 3);
  for (let i = 0, o = 0; i < planes.length; i += 4, o += 3) {
    const off =
      planes[i + 3]! - planes[i]! * inside[0] - planes[i + 1]! * inside[1] - planes[i + 2]! * inside[2];
    if (!(off > 0)) return new Float64Array(0);
    for (let k = 0; k < 3; k++) dual[o + k] = planes[i + k]! / off;
  }
  const result: HullResult = convexHull(dual);
  if (result.span !== 'solid') return new Float64Array(0);
  const { points: q, faces } = result.hull;
  const corners = new Float64Array(faces.length * 3);
  for (let f = 0; f < faces.length; f++) {
    const face = faces[f]!;
    // The largest triangle of the face's fan gives its plane best.
    let best = -1;
    const n: Vec3 = [0, 0, 0];
    const o = face[0]! * 3;
    for (let i = 1; i + 1 < face.length; i++) {
      const a = face[i]! * 3;
      const b = face[i + 1]! * 3;
      const [x, y, z] = areaVector(q, o, a, b);
      const size = x * x + y * y + z * z;
      if (size <= best) continue;
      best = size;
      n[0] = x;
      n[1] = y;
      n[2] = z;
    }
    const d = n[0] * q[o]! + n[1] * q[o + 1]! + n[2] * q[o + 2]!;
    if (!(d > 0)) return new Float64Array(0);
    for (let k = 0; k < 3; k++) corners[f * 3 + k] = inside[k]! + n[k]! / d;
  }
  return corners;
}
