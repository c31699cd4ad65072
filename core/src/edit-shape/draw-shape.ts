import { distance, type Vec3 } from '../math/index.js';
import { type BoxShape, type CylinderShape, thickened } from '../shape/index.js';

/** A box on its base between two opposite corners, as high as a third point. No side is thinner than a shape may be. */
export function boxBetween(corner: Readonly<Vec3>, opposite: Readonly<Vec3>, top: Readonly<Vec3>): BoxShape {
  const low = Math.min(corner[1], opposite[1], top[1]);
  const high = top[1] > low ? top[1] : Math.max(corner[1], opposite[1]);
  return {
    kind: 'box',
    center: [(corner[0] + opposite[0]) / 2, (low + high) / 2, (corner[2] + opposite[2]) / 2],
    halfExtents: thickened([
      Math.abs(corner[0] - opposite[0]) / 2,
      (high - low) / 2,
      Math.abs(corner[2] - opposite[2]) / 2,
    ]),
    rotation: [0, 0, 0, 1],
  };
}

/** An upright cylinder about the middle of its base, as wide as a point on its rim, as high as a third point. */
export function cylinderBetween(
  middle: Readonly<Vec3>,
  rim: Readonly<Vec3>,
  top: Readonly<Vec3>,
): CylinderShape {
  const [low, high] = [Math.min(middle[1], top[1]), Math.max(middle[1], top[1])];
  const [radius, halfHeight] = thickened([
    distance([middle[0], 0, middle[2]], [rim[0], 0, rim[2]]),
    (high - low) / 2,
    1,
  ]);
  return {
    kind: 'cylinder',
    center: [middle[0], (low + high) / 2, middle[2]],
    rotation: [0, 0, 0, 1],
    halfHeight,
    bottomRadius: radius,
    topRadius: radius,
  };
}
