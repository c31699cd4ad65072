import { add, multiplyQuats, type Quat, rotate, scaled, type Vec3 } from '../math/index.js';
import type { Shape } from './shape.js';

const eachPoint = (points: readonly number[], change: (p: Vec3) => Vec3): number[] => {
  const out: number[] = [];
  for (let i = 0; i < points.length; i += 3)
    out.push(...change([points[i]!, points[i + 1]!, points[i + 2]!]));
  return out;
};

/** The shape, shifted. Shapes are values: the one given stays as it is. */
export function moveShape<S extends Shape>(shape: S, by: Readonly<Vec3>): S {
  if ('center' in shape) return { ...shape, center: add(shape.center, by) };
  return { ...shape, points: eachPoint(shape.points, (p) => add(p, by)) };
}

/** The shape as it is when the whole piece grows by `factor` (> 0) about the world origin. */
export function scaleShape(shape: Shape, factor: number): Shape {
  switch (shape.kind) {
    case 'box':
      return {
        ...shape,
        center: scaled(shape.center, factor),
        halfExtents: scaled(shape.halfExtents, factor),
      };
    case 'sphere':
      return { ...shape, center: scaled(shape.center, factor), radius: shape.radius * factor };
    case 'capsule':
      return {
        ...shape,
        center: scaled(shape.center, factor),
        halfLength: shape.halfLength * factor,
        radius: shape.radius * factor,
      };
    case 'cylinder':
      return {
        ...shape,
        center: scaled(shape.center, factor),
        halfHeight: shape.halfHeight * factor,
        bottomRadius: shape.bottomRadius * factor,
        topRadius: shape.topRadius * factor,
      };
    default:
      return { ...shape, points: eachPoint(shape.points, (p) => scaled(p, factor)) };
  }
}

/** The shape turned about the world origin. */
export function turnShape<S extends Shape>(shape: S, turn: Readonly<Quat>): S {
  if (!('center' in shape)) return { ...shape, points: eachPoint(shape.points, (p) => rotate(turn, p)) };
  const turned = { ...shape, center: rotate(turn, shape.center) };
  return 'rotation' in shape ? { ...turned, rotation: multiplyQuats(turn, shape.rotation) } : turned;
}

/** The shape turned about a point. Far from the world's origin no digits are lost: it is turned about the point. */
export function turnShapeAbout<S extends Shape>(shape: S, turn: Readonly<Quat>, about: Readonly<Vec3>): S {
  return moveShape(turnShape(moveShape(shape, scaled(about, -1)), turn), about);
}
