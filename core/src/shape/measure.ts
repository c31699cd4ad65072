import { type Bounds, boundsOf, rotate, type Vec3 } from '../math/index.js';
import { trianglesVolume } from '../mesh/index.js';
import type { Shape } from './shape.js';
import { shapeTriangles } from './tessellate.js';

/** Enclosed volume in cubic metres, exact for the exact kinds; 0 for an open surface. */
export function shapeVolume(shape: Shape): number {
  switch (shape.kind) {
    case 'box':
      return 8 * shape.halfExtents[0] * shape.halfExtents[1] * shape.halfExtents[2];
    case 'sphere':
      return (4 / 3) * Math.PI * shape.radius ** 3;
    case 'capsule':
      return Math.PI * shape.radius ** 2 * (2 * shape.halfLength + (4 / 3) * shape.radius);
    case 'cylinder': {
      const { bottomRadius: r, topRadius: s } = shape;
      return ((2 * shape.halfHeight * Math.PI) / 3) * (r * r + r * s + s * s);
    }
    case 'hull': {
      const { points, indices } = shapeTriangles(shape);
      return trianglesVolume(points, indices);
    }
    case 'surface':
      return 0;
  }
}

/** Corners a physics engine pays for: a box has 8, round kinds have none. */
export function shapeCorners(shape: Shape): number {
  if (shape.kind === 'box') return 8;
  return shape.kind === 'hull' || shape.kind === 'surface' ? shape.points.length / 3 : 0;
}

/**
 * What a shape costs an engine at each contact, about, with a box as 1: round kinds are a distance and a
 * radius, a hull is walked corner by corner, a surface triangle by triangle.
 */
export function shapeCost(shape: Shape): number {
  switch (shape.kind) {
    case 'sphere':
      return 0.5;
    case 'capsule':
      return 0.75;
    case 'box':
      return 1;
    case 'cylinder':
      return 1.5;
    case 'hull':
      return 1 + shape.points.length / 3 / 16;
    case 'surface':
      return 1 + shape.indices.length / 3 / 4;
  }
}

/** Axis-aligned bounds, exact for every kind. */
export function shapeBounds(shape: Shape): Bounds {
  const round = (center: Vec3, half: Vec3): Bounds => ({
    min: [center[0] - half[0], center[1] - half[1], center[2] - half[2]],
    max: [center[0] + half[0], center[1] + half[1], center[2] + half[2]],
  });
  switch (shape.kind) {
    case 'sphere':
      return round(shape.center, [shape.radius, shape.radius, shape.radius]);
    case 'capsule': {
      const axis = rotate(shape.rotation, [0, shape.halfLength, 0]);
      return round(shape.center, axis.map((a) => Math.abs(a) + shape.radius) as Vec3);
    }
    case 'cylinder': {
      const axis = rotate(shape.rotation, [0, 1, 0]);
      const side = (sign: 1 | -1, i: 0 | 1 | 2) => {
        const reach = Math.sqrt(Math.max(0, 1 - axis[i] ** 2));
        const ends = [
          [axis[i] * shape.halfHeight, shape.topRadius],
          [-axis[i] * shape.halfHeight, shape.bottomRadius],
        ] as const;
        return (
          shape.center[i] + sign * Math.max(...ends.map(([along, radius]) => sign * along + radius * reach))
        );
      };
      return { min: [side(-1, 0), side(-1, 1), side(-1, 2)], max: [side(1, 0), side(1, 1), side(1, 2)] };
    }
    default:
      return boundsOf(shapeTriangles(shape).points);
  }
}
