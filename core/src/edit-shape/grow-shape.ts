import { MIN_THICKNESS_METRES, type Shape } from '../shape/index.js';
import { clippedBy, middleOf, planesOf, solidOf } from './solid-of.js';

const MIN_HALF = MIN_THICKNESS_METRES / 2;

/** Every face moved outwards by so many metres, or inwards where they are below 0; null when nothing is left of it. */
export function growShape(shape: Shape, metres: number): Shape | null {
  const grown = (half: number) => half + metres;
  const left = (...halves: number[]) => halves.every((half) => half >= MIN_HALF);
  switch (shape.kind) {
    case 'box': {
      const [x, y, z] = shape.halfExtents;
      return left(grown(x), grown(y), grown(z))
        ? { ...shape, halfExtents: [grown(x), grown(y), grown(z)] }
        : null;
    }
    case 'sphere':
    case 'capsule':
      return left(grown(shape.radius)) ? { ...shape, radius: grown(shape.radius) } : null;
    case 'cylinder': {
      // The slanted side moves along its own normal, and reaches on to where the ends are then.
      const slope = (shape.bottomRadius - shape.topRadius) / (2 * shape.halfHeight);
      const side = metres * Math.hypot(1, slope);
      const bottomRadius = shape.bottomRadius + side + slope * metres;
      const topRadius = shape.topRadius + side - slope * metres;
      const halfHeight = grown(shape.halfHeight);
      return left(halfHeight, bottomRadius, topRadius)
        ? { ...shape, halfHeight, bottomRadius, topRadius }
        : null;
    }
    case 'hull': {
      const planes = planesOf(shape.points, shape.faces).map(({ plane: [x, y, z, d] }) => [
        x,
        y,
        z,
        d + metres,
      ]);
      return metres > 0 ? solidOf(planes.flat(), middleOf(shape.points)) : clippedBy(shape, planes);
    }
    case 'surface':
      return shape;
  }
}
