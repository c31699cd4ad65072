import {
  add,
  dot,
  multiplyQuats,
  normalized,
  type Quat,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import type { Shape } from './shape.js';

/** A plane to mirror over: a point on it and its normal (any length above 0). */
export interface MirrorPlane {
  point: Readonly<Vec3>;
  normal: Readonly<Vec3>;
}

export function mirrorPoint(p: Readonly<Vec3>, { point, normal }: MirrorPlane): Vec3 {
  const n = normalized(normal);
  return add(p, scaled(n, -2 * dot(n, subtract(p, point))));
}

/**
 * The shape on the other side of a plane. A reflection M turns no box into anything but a box: with its own x turned
 * round as well, M R diag(-1, 1, 1) is a rotation, the product of the half turns about the normal and about x. Mirrored
 * twice over one plane it is what it was.
 */
export function mirrorShape<S extends Shape>(shape: S, plane: MirrorPlane): S {
  if ('center' in shape) {
    const mirrored = { ...shape, center: mirrorPoint(shape.center, plane) };
    if (!('rotation' in shape)) return mirrored;
    const [x, y, z] = normalized(plane.normal);
    const halfTurns: Quat = multiplyQuats([x, y, z, 0], multiplyQuats(shape.rotation, [1, 0, 0, 0]));
    return { ...mirrored, rotation: halfTurns };
  }
  const points: number[] = [];
  for (let i = 0; i < shape.points.length; i += 3)
    points.push(...mirrorPoint([shape.points[i]!, shape.points[i + 1]!, shape.points[i + 2]!], plane));
  if (shape.kind === 'hull')
    return { ...shape, points, faces: shape.faces.map((face) => [...face].reverse()) };
  const indices: number[] = [];
  for (let i = 0; i < shape.indices.length; i += 3)
    indices.push(shape.indices[i]!, shape.indices[i + 2]!, shape.indices[i + 1]!);
  return { ...shape, points, indices };
}
