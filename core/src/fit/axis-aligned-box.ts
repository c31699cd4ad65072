import { boundsOf, centreOf, NO_ROTATION, sizeOf, type Vec3 } from '../math/index.js';
import { type BoxShape, thickened } from '../shape/index.js';

/** The axis-aligned box round packed points. Shape: [3n], n > 0. Flat sets get the least thickness a shape has. */
export function axisAlignedBox(points: ArrayLike<number>): BoxShape {
  const bounds = boundsOf(points);
  const size = sizeOf(bounds);
  return {
    kind: 'box',
    center: centreOf(bounds),
    halfExtents: thickened([size[0] / 2, size[1] / 2, size[2] / 2] as Vec3),
    rotation: [...NO_ROTATION],
  };
}
