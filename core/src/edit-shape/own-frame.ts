import { add, boundsOf, centreOf, NO_ROTATION, type Quat, rotate, sizeOf, type Vec3 } from '../math/index.js';
import type { Shape } from '../shape/index.js';

/** Where a shape stands and how its own axes are turned; hulls and surfaces stand in their bounds, unturned. */
export interface OwnFrame {
  center: Vec3;
  rotation: Quat;
  /** extents along its own axes, metres */
  size: Vec3;
}

export function ownFrame(shape: Shape): OwnFrame {
  switch (shape.kind) {
    case 'box':
      return {
        center: shape.center,
        rotation: shape.rotation,
        size: shape.halfExtents.map((half) => half * 2) as Vec3,
      };
    case 'sphere': {
      const size = shape.radius * 2;
      return { center: shape.center, rotation: [...NO_ROTATION], size: [size, size, size] };
    }
    case 'capsule': {
      const wide = shape.radius * 2;
      return {
        center: shape.center,
        rotation: shape.rotation,
        size: [wide, 2 * shape.halfLength + wide, wide],
      };
    }
    case 'cylinder': {
      const wide = 2 * Math.max(shape.bottomRadius, shape.topRadius);
      return { center: shape.center, rotation: shape.rotation, size: [wide, 2 * shape.halfHeight, wide] };
    }
    default: {
      const bounds = boundsOf(shape.points);
      return { center: centreOf(bounds), rotation: [...NO_ROTATION], size: sizeOf(bounds) };
    }
  }
}

/** From a shape's own axes into the space it stands in. */
export const fromOwn = ({ center, rotation }: OwnFrame, p: Readonly<Vec3>): Vec3 =>
  add(center, rotate(rotation, p));
