import { boundsOf, diagonalOf } from '../math/index.js';
import { squaredToTriangle } from '../solid/index.js';
import { facePlanes } from './plane.js';

/**
 * Metres from a place to something, negative inside. Where only distances below `within` matter, a lower bound
 * of `within` or more may be told instead of the distance.
 */
export type Distance = (x: number, y: number, z: number, within?: number) => number;

/**
 * The distance to a convex polyhedron, exact outside; inside it is the depth below the nearest face.
 *
 * @param points [3n]
 * @param faces convex polygons, counter-clockwise seen from outside
 */
export function hullDistance(points: ArrayLike<number>, faces: readonly (readonly number[])[]): Distance {
  const positions = Float64Array.from(points);
  const planes = facePlanes(points, faces);
  const every = facePlanes(points, faces, 0);
  const starts: number[] = [];
  const fans: number[] = [];
  for (const face of faces) {
    starts.push(fans.length);
    for (let i = 1; i + 1 < face.length; i++) fans.push(face[0]!, face[i]!, face[i + 1]!);
  }
  starts.push(fans.length);
  const mesh = { positions, indices: Uint32Array.from(fans) };
  const slack = diagonalOf(boundsOf(points)) * 1e-9;
  return (x, y, z, within = Infinity) => {
    let most = -Infinity;
    for (let k = 0; k < planes.length; k += 4) {
      const off = planes[k]! * x + planes[k + 1]! * y + planes[k + 2]! * z - planes[k + 3]!;
      if (off <= most) continue;
      most = off;
      // Beyond a face plane no place of the hull is nearer than that is.
      if (most >= within && most > 0) return most;
    }
    if (most <= 0) return most;
    let least = Infinity;
    for (let f = 0, k = 0; k < every.length; f++, k += 4) {
      // The nearest place lies on a face that is seen from here; from the surface itself signs are rounding.
      const off = every[k]! * x + every[k + 1]! * y + every[k + 2]! * z - every[k + 3]!;
      // No place of a face is nearer than its plane.
      if (off < -slack || (off > slack && (off - slack) * (off - slack) >= least)) continue;
      for (let i = starts[f]!; i < starts[f + 1]!; i += 3) {
        const squared = squaredToTriangle(mesh, i, x, y, z);
        if (squared < least) least = squared;
      }
    }
    return Math.sqrt(least);
  };
}
