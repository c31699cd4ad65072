import { convexHull, type ConvexHull, planeOf } from '../hull/index.js';
import { cross, dot, normalized, rotate, scaled, subtract, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { type CapsuleShape, type CylinderShape, type Shape, shapeVolume } from '../shape/index.js';
import { minVolumeBox } from './min-volume-box.js';
import { mostApart } from './most-apart.js';
import { isDirection, refineAxis } from './refine-axis.js';
import { capsuleAlong, cylinderAlong } from './round-about-axis.js';

/** Starts that are followed downhill. */
const DESCENTS = 4;

/** The smallest cylinder found in any direction, straight or tapered, round packed points ([3n], n > 0). */
export function freeCylinder(points: ArrayLike<number>, options: { tapered?: boolean } = {}): CylinderShape {
  return smallestAlong(points, (axis, corners) => cylinderAlong(corners, axis, options));
}

/** The smallest capsule found in any direction, round packed points ([3n], n > 0). */
export function freeCapsule(points: ArrayLike<number>): CapsuleShape {
  return smallestAlong(points, (axis, corners) => capsuleAlong(corners, axis));
}

/** The least of a kind over all axes: from the axes of the points, the faces of their hull, then downhill. */
function smallestAlong<S extends Shape>(
  points: ArrayLike<number>,
  along: (axis: Vec3, corners: ArrayLike<number>) => S,
): S {
  const result = convexHull(points);
  const corners = result.span === 'solid' ? result.hull.points : points;
  const some = mostApart(corners);
  const box = minVolumeBox(corners, { worthTurning: 1e-6 });
  const starts: Vec3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  starts.push(...starts.map((axis) => rotate(box.rotation, axis)));
  if (result.span === 'solid') starts.push(...largestFaces(result.hull, 8), longest(corners));
  const volume = (axis: Vec3) => shapeVolume(along(axis, some));
  const best = starts
    .filter(isDirection)
    .map((axis) => ({ axis, value: volume(axis) }))
    .sort((a, b) => a.value - b.value)
    .slice(0, DESCENTS)
    .map(({ axis, value }) => {
      const refined = refineAxis(axis, volume, { wide: 0.2, fine: 1e-6 });
      // An axis that is given by the art is kept unless leaving it gains something.
      return refined.value < value * (1 - 1e-3) ? refined : { axis, value };
    })
    .reduce((a, b) => (b.value < a.value * (1 - 1e-9) ? b : a));
  return along(upwards(best.axis), corners);
}

/** The axis by its end that looks up, or else along x or z: what lies along it is told from its lower end. */
function upwards(axis: Vec3): Vec3 {
  const leading = [axis[1], axis[0], axis[2]].find((v) => Math.abs(v) > 1e-9) ?? 1;
  return leading < 0 ? scaled(axis, -1) : axis;
}

/** Normals of the largest faces of a hull, largest first. */
export function largestFaces({ points, faces }: ConvexHull, count: number): Vec3[] {
  const at = (v: number): Vec3 => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!];
  return faces
    .map((face) => {
      const [x, y, z] = planeOf(points, face);
      let area = 0;
      for (let i = 1; i + 1 < face.length; i++) {
        const [a, b, c] = [at(face[0]!), at(face[i]!), at(face[i + 1]!)];
        area += dot(cross(subtract(b, a), subtract(c, a)), [x, y, z]);
      }
      return { axis: [x, y, z] as Vec3, area };
    })
    .sort((a, b) => b.area - a.area)
    .slice(0, count)
    .map(({ axis }) => axis);
}

/** About the longest way through the points. */
function longest(points: ArrayLike<number>): Vec3 {
  const at = (i: number): Vec3 => [points[i]!, points[i + 1]!, points[i + 2]!];
  const farFrom = (from: Vec3): Vec3 => {
    let best = from;
    for (let i = 0; i < points.length; i += 3)
      if (Math.hypot(...subtract(at(i), from)) > Math.hypot(...subtract(best, from))) best = at(i);
    return best;
  };
  const one = farFrom(at(0));
  return normalized(subtract(farFrom(one), one));
}

/** The places that chosen faces (all when none are named) use, each once. Shape: [3n]. */
export function pointsOfFaces(mesh: Mesh, faces?: Iterable<number>): Float64Array {
  const used = new Set<number>();
  const take = (f: number) => {
    for (let k = f * 3; k < f * 3 + 3; k++) used.add(mesh.indices[k]!);
  };
  if (faces) for (const f of faces) take(f);
  else for (let f = 0; f < mesh.indices.length / 3; f++) take(f);
  const out = new Float64Array(used.size * 3);
  let i = 0;
  for (const v of used) out.set(mesh.positions.subarray(v * 3, v * 3 + 3), 3 * i++);
  return out;
}
