import type { ColliderDesc } from '@dimforge/rapier3d-compat';
import type { CollisionShape, Quat, Vec3 } from '@yard-brace/core';
import type { Engine } from './engine.js';

export const xyz = ([x, y, z]: Readonly<Vec3>) => ({ x, y, z });
export const xyzw = ([x, y, z, w]: Readonly<Quat>) => ({ x, y, z, w });
export const vec = ({ x, y, z }: { x: number; y: number; z: number }): Vec3 => [x, y, z];

/** Points in the engine's single precision, from an origin that is near them. Shape: [3n]. */
export function localPoints(points: ArrayLike<number>, origin: Readonly<Vec3>): Float32Array {
  const local = new Float32Array(points.length);
  for (let i = 0; i < points.length; i++) local[i] = points[i]! - origin[i % 3]!;
  return local;
}

/**
 * A collider for the engine, from an origin. Null for points that enclose nothing at all.
 *
 * @param origin metres, near the shapes: the engine counts in single precision
 */
export function colliderDesc(
  { ColliderDesc }: Engine,
  shape: CollisionShape,
  origin: Readonly<Vec3>,
): ColliderDesc | null {
  const at = (center: Vec3, rotation: Quat, desc: ColliderDesc) =>
    desc
      .setTranslation(center[0] - origin[0], center[1] - origin[1], center[2] - origin[2])
      .setRotation(xyzw(rotation));
  switch (shape.kind) {
    case 'box':
      return at(shape.center, shape.rotation, ColliderDesc.cuboid(...shape.halfExtents));
    case 'sphere':
      return at(shape.center, [0, 0, 0, 1], ColliderDesc.ball(shape.radius));
    case 'capsule':
      return at(shape.center, shape.rotation, ColliderDesc.capsule(shape.halfLength, shape.radius));
    case 'cylinder':
      return at(shape.center, shape.rotation, ColliderDesc.cylinder(shape.halfHeight, shape.bottomRadius));
    case 'hull':
      return ColliderDesc.convexHull(localPoints(shape.points, origin));
    case 'surface':
      return ColliderDesc.trimesh(localPoints(shape.points, origin), Uint32Array.from(shape.indices));
  }
}
