import { convexHull, hullShape } from '../hull/index.js';
import { type Shape, shapePolygons } from '../shape/index.js';
import { brokenUp, deliveredOnce, isBrokenUp } from './delivered-shape.js';
import type { TargetProfile } from './profile.js';

/** A shape as a physics engine takes it: rounds as they are, but for a tapered cylinder, which no engine has. */
export type CollisionShape = Shape;

/** Sides of a tapered cylinder where a target that knows it leaves the number to the engine. */
const TAPERED_SIDES = 24;

/**
 * What collides in a level for each shape of a set, as the target gets it: a box stays a box where the target knows
 * boxes, and is a hull elsewhere. A surface that the target breaks up is several.
 *
 * @returns for each shape its colliders, one at least
 * @throws DecomposeError when a surface cannot be broken up
 */
export function collisionShapes(
  profile: Pick<TargetProfile, 'kinds' | 'solids'>,
  shapes: readonly Shape[],
): Promise<CollisionShape[][]> {
  return Promise.all(
    shapes.map(async (shape) => {
      const leaving = isBrokenUp(profile, shape)
        ? await brokenUp(profile, shape)
        : [deliveredOnce(profile, shape)];
      return leaving.map(straight);
    }),
  );
}

function straight(shape: Shape): CollisionShape {
  if (shape.kind !== 'cylinder' || shape.bottomRadius === shape.topRadius) return shape;
  const found = convexHull(shapePolygons(shape, { segments: TAPERED_SIDES }).points);
  return found.span === 'solid' ? hullShape(found.hull) : shape;
}
