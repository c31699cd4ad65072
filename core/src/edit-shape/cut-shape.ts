import { type ConvexPolyhedron, clipConvex } from '../hull/index.js';
import {
  add,
  boundsOf,
  diagonalOf,
  dot,
  inverseQuat,
  length,
  normalized,
  rotate,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import { MIN_THICKNESS_METRES, type Shape, shapePolygons } from '../shape/index.js';
import { hullOf } from './solid-of.js';

export interface CutShapePlane {
  point: Readonly<Vec3>;
  normal: Readonly<Vec3>;
}

/** What a plane leaves of a shape on either side; null where nothing is left, or less than a shape may be thick. */
export interface CutHalves {
  /** against the normal */
  below: Shape | null;
  /** along it */
  above: Shape | null;
}

/** A plane so nearly along a shape's own axis that the halves are of its kind: a millionth of a radian. */
const STRAIGHT_COSINE = 1 - 5e-13;

/**
 * A shape cut in two by a plane. Across their own axes boxes stay boxes and cylinders cylinders; anything else becomes
 * hulls (round kinds with `segments` sides). A surface is no solid and is not cut.
 */
export function cutShape(shape: Shape, { point, normal }: CutShapePlane, { segments = 24 } = {}): CutHalves {
  const n = normalized(normal);
  if (shape.kind === 'surface' || length(n) === 0) return { below: shape, above: null };
  if (shape.kind === 'box' || shape.kind === 'cylinder') {
    const own = rotate(inverseQuat(shape.rotation), n);
    const axis = own.findIndex((v) => Math.abs(v) >= STRAIGHT_COSINE);
    const at = dot(subtract(point, shape.center), n) * Math.sign(own[axis] ?? 1);
    if (axis >= 0 && (shape.kind === 'box' || axis === 1)) {
      const [low, high] = shape.kind === 'box' ? cutBox(shape, axis, at) : cutCylinder(shape, at);
      return own[axis]! > 0 ? { below: low, above: high } : { below: high, above: low };
    }
  }
  const { points, faces } = shapePolygons(shape, { segments });
  const solid: ConvexPolyhedron = { points: [...points], faces: faces.map((face) => [...face]) };
  const size = diagonalOf(boundsOf(points));
  const half = (sign: 1 | -1): Shape | null => {
    const [x, y, z] = scaled(n, sign);
    const kept = clipConvex(solid, x, y, z, sign * dot(n, point), size * 1e-10);
    if (kept === solid) return shape;
    return kept && depth(kept.points, n) >= MIN_THICKNESS_METRES ? hullOf(kept.points) : null;
  };
  return { below: half(1), above: half(-1) };
}

type Halves<S> = [low: S | null, high: S | null];

function cutBox(shape: Extract<Shape, { kind: 'box' }>, axis: number, at: number): Halves<Shape> {
  const half = shape.halfExtents[axis]!;
  const part = (from: number, to: number): Shape | null => {
    if (to - from < MIN_THICKNESS_METRES) return null;
    const shift: Vec3 = [0, 0, 0];
    shift[axis] = (from + to) / 2;
    const halfExtents: Vec3 = [...shape.halfExtents];
    halfExtents[axis] = (to - from) / 2;
    return { ...shape, center: add(shape.center, rotate(shape.rotation, shift)), halfExtents };
  };
  return split(shape, at, half, part);
}

function cutCylinder(shape: Extract<Shape, { kind: 'cylinder' }>, at: number): Halves<Shape> {
  const { halfHeight, bottomRadius, topRadius } = shape;
  const radiusAt = (y: number) =>
    bottomRadius + ((topRadius - bottomRadius) * (y + halfHeight)) / (2 * halfHeight);
  const part = (from: number, to: number): Shape | null =>
    to - from < MIN_THICKNESS_METRES
      ? null
      : {
          ...shape,
          center: add(shape.center, rotate(shape.rotation, [0, (from + to) / 2, 0])),
          halfHeight: (to - from) / 2,
          bottomRadius: radiusAt(from),
          topRadius: radiusAt(to),
        };
  return split(shape, at, halfHeight, part);
}

function split(
  shape: Shape,
  at: number,
  half: number,
  part: (from: number, to: number) => Shape | null,
): Halves<Shape> {
  if (at >= half) return [shape, null];
  if (at <= -half) return [null, shape];
  return [part(-half, at), part(at, half)];
}

/** Metres from the lowest of some points to the highest, along a unit direction. */
const depth = (points: ArrayLike<number>, n: Vec3): number => {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    const along = dot([points[i]!, points[i + 1]!, points[i + 2]!], n);
    [low, high] = [Math.min(low, along), Math.max(high, along)];
  }
  return high - low;
};
