import { add, rotate, type Vec3 } from '../math/index.js';
import { MIN_THICKNESS_METRES, moveShape, type Shape } from '../shape/index.js';
import { ownFrame } from './own-frame.js';

/** Which side keeps its place while an extent changes: the lower, the upper, or neither. */
export type HeldSide = -1 | 0 | 1;

/**
 * The shape with another extent along one of its own axes (a hull's are the piece's), about its middle or with one
 * side held. Round kinds stay round: both widths of a cylinder change together, a sphere in all directions.
 *
 * @param axis 0, 1, 2 for its own x, y, z
 * @param metres the new extent; never less than the least thickness
 */
export function resizeShape(shape: Shape, axis: 0 | 1 | 2, metres: number, held: HeldSide = 0): Shape {
  const frame = ownFrame(shape);
  const before = frame.size[axis];
  const wanted = Math.max(metres, MIN_THICKNESS_METRES);
  const resized = withExtent(shape, axis, wanted, before);
  const after = ownFrame(resized).size[axis];
  const shift: Vec3 = [0, 0, 0];
  shift[axis] = (-held * (after - before)) / 2;
  return moveShape(resized, rotate(frame.rotation, shift));
}

function withExtent(shape: Shape, axis: 0 | 1 | 2, metres: number, before: number): Shape {
  const least = MIN_THICKNESS_METRES / 2;
  switch (shape.kind) {
    case 'box': {
      const halfExtents: Vec3 = [...shape.halfExtents];
      halfExtents[axis] = metres / 2;
      return { ...shape, halfExtents };
    }
    case 'sphere':
      return { ...shape, radius: metres / 2 };
    case 'capsule': {
      if (axis === 1) return { ...shape, halfLength: Math.max(0, metres / 2 - shape.radius) };
      // Its length stays while it gets thicker, as long as it can.
      const radius = metres / 2;
      return { ...shape, radius, halfLength: Math.max(0, shape.halfLength + shape.radius - radius) };
    }
    case 'cylinder': {
      if (axis === 1) return { ...shape, halfHeight: metres / 2 };
      const factor = metres / before;
      return {
        ...shape,
        bottomRadius: Math.max(least, shape.bottomRadius * factor),
        topRadius: Math.max(least, shape.topRadius * factor),
      };
    }
    default: {
      const { center } = ownFrame(shape);
      const factor = before > 0 ? metres / before : 1;
      const points = shape.points.map((v, i) =>
        i % 3 === axis ? center[axis] + (v - center[axis]) * factor : v,
      );
      return { ...shape, points };
    }
  }
}

/** The shape with its middle somewhere else, its own axes as they were. */
export function placeShape<S extends Shape>(shape: S, middle: Readonly<Vec3>): S {
  const { center } = ownFrame(shape);
  return moveShape(shape, add(middle, center.map((v) => -v) as Vec3));
}
