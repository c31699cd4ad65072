import { areaVector, boundsOf, triangleArea } from '../math/index.js';

/** Unit normal and offset of a polygon (Newell's method). Shape: nx, ny, nz, d with n . x = d. */
export function planeOf(
  points: ArrayLike<number>,
  face: readonly number[],
): [number, number, number, number] {
  let nx = 0,
    ny = 0,
    nz = 0;
  const o = face[0]! * 3;
  for (let i = 1; i + 1 < face.length; i++) {
    const a = face[i]! * 3;
    const b = face[i + 1]! * 3;
    const normal = areaVector(points, o, a, b);
    nx += normal[0];
    ny += normal[1];
    nz += normal[2];
  }
  const l = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
  return [nx / l, ny / l, nz / l, (nx * points[o]! + ny * points[o + 1]! + nz * points[o + 2]!) / l];
}

/**
 * The planes of convex faces, [4f], with f at most the number of faces: a face thinner than a share of the size
 * (a ten-millionth) has no direction of its own that could be trusted, and its neighbours bound the solid
 * there. With a share of 0 there is a plane for each face.
 */
export function facePlanes(
  points: ArrayLike<number>,
  faces: readonly (readonly number[])[],
  thinShare = 1e-7,
): Float64Array {
  const { min, max } = boundsOf(points);
  const thin = thinShare * Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
  const planes = new Float64Array(faces.length * 4);
  let count = 0;
  for (const face of faces) {
    const plane = planeOf(points, face);
    if (thin > 0 && widthOf(points, face, plane) <= thin) continue;
    planes.set(plane, count);
    count += 4;
  }
  // A needle has nothing but thin faces: they are better than none.
  return count || thin <= 0 ? planes.subarray(0, count) : facePlanes(points, faces, 0);
}

/** Width of a convex face across its longest edge. */
function widthOf(p: ArrayLike<number>, face: readonly number[], plane: readonly number[]): number {
  const nx = plane[0]!,
    ny = plane[1]!,
    nz = plane[2]!;
  let longest = 0;
  let area = 0;
  const o = face[0]! * 3;
  const ox = p[o]!,
    oy = p[o + 1]!,
    oz = p[o + 2]!;
  for (let i = 0; i < face.length; i++) {
    const a = face[i]! * 3;
    const b = face[i + 1 === face.length ? 0 : i + 1]! * 3;
    const ux = p[a]! - ox,
      uy = p[a + 1]! - oy,
      uz = p[a + 2]! - oz;
    const vx = p[b]! - ox,
      vy = p[b + 1]! - oy,
      vz = p[b + 2]! - oz;
    const edge = (vx - ux) * (vx - ux) + (vy - uy) * (vy - uy) + (vz - uz) * (vz - uz);
    if (edge > longest) longest = edge;
    area += (uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz;
  }
  return longest > 0 ? area / Math.sqrt(longest) : 0;
}

/** Area of a convex face. */
export function faceArea(points: ArrayLike<number>, face: readonly number[]): number {
  let area = 0;
  for (let i = 1; i + 1 < face.length; i++)
    area += triangleArea(points, face[0]! * 3, face[i]! * 3, face[i + 1]! * 3);
  return area;
}
