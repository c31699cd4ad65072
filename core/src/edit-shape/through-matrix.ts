import {
  applyMatrix,
  composeMatrix,
  decomposeMatrix,
  determinant3,
  type Matrix,
  multiplyMatrices,
  shearOf,
  type Vec3,
} from '../math/index.js';
import { mirrorShape, moveShape, scaleShape, type Shape, shapePolygons, turnShape } from '../shape/index.js';
import { hullOf } from './solid-of.js';

/** Lengths that differ by less than this share are the same. */
const SAME = 1e-9;

/**
 * A shape through any matrix that keeps straight lines. It stays of its kind where that is exact: turned, grown alike
 * in all directions, mirrored; a box that is stretched along its own sides, too. Anything else becomes the hull of
 * where its corners go. Null where that is flat.
 */
export function throughMatrix(shape: Shape, matrix: Matrix): Shape | null {
  const mirror = determinant3(matrix) < 0;
  const { translation, rotation, scale } = decomposeMatrix(matrix);
  const size = Math.abs(scale[0]);
  const even = scale.every((s) => Math.abs(Math.abs(s) - size) <= SAME * size) && shearOf(matrix) < SAME;
  if (even) {
    // A mirror goes into the scale along x.
    const seen = mirror ? mirrorShape(shape, { point: [0, 0, 0], normal: [1, 0, 0] }) : shape;
    return moveShape(turnShape(size === 1 ? seen : scaleShape(seen, size), rotation), translation);
  }
  if (shape.kind === 'box') {
    const box = boxThrough(shape, matrix);
    if (box) return box;
  }
  const { points } = shape.kind === 'surface' ? shape : shapePolygons(shape);
  const moved: number[] = [];
  for (let i = 0; i < points.length; i += 3)
    moved.push(...applyMatrix(matrix, [points[i]!, points[i + 1]!, points[i + 2]!]));
  if (shape.kind !== 'surface') return hullOf(moved);
  const indices = mirror
    ? shape.indices.map((_, i) => shape.indices[i - (i % 3) + [0, 2, 1][i % 3]!]!)
    : shape.indices;
  return { ...shape, points: moved, indices };
}

/** The box, when its sides are still square to each other. */
function boxThrough(shape: Extract<Shape, { kind: 'box' }>, matrix: Matrix): Shape | null {
  const frame = composeMatrix({ translation: [0, 0, 0], rotation: shape.rotation, scale: [1, 1, 1] });
  const sides = multiplyMatrices(matrix, frame);
  if (shearOf(sides) > SAME) return null;
  const own = decomposeMatrix(sides);
  return {
    ...shape,
    center: applyMatrix(matrix, shape.center),
    rotation: own.rotation,
    halfExtents: shape.halfExtents.map((half, k) => half * Math.abs(own.scale[k]!)) as Vec3,
  };
}
