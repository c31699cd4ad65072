import { dot, inverseQuat, rotate, scaled, type Vec3 } from '../math/index.js';
import { MIN_THICKNESS_METRES, moveShape, scaleShape, type Shape } from '../shape/index.js';
import { fromOwn, ownFrame } from './own-frame.js';
import { resizeShape } from './resize-shape.js';

/** A corner of the box round a shape in its own axes. */
export interface CornerHandle {
  /** "corner+-+": to which side of its middle it lies along x, y and z */
  id: string;
  at: Vec3;
}

type Sides = readonly [1 | -1, 1 | -1, 1 | -1];
const SIDES: readonly Sides[] = [1, -1].flatMap((x) =>
  [1, -1].flatMap((y) => [1, -1].map((z) => [x, y, z] as unknown as Sides)),
);
const idOf = (sides: Sides): string => `corner${sides.map((side) => (side > 0 ? '+' : '-')).join('')}`;

/** The corners by which a shape is grown; a surface has none. */
export function cornerHandles(shape: Shape): CornerHandle[] {
  if (shape.kind === 'surface') return [];
  const frame = ownFrame(shape);
  const half = scaled(frame.size, 0.5);
  return SIDES.map((sides) => ({
    id: idOf(sides),
    at: fromOwn(frame, half.map((h, k) => h * sides[k]!) as Vec3),
  }));
}

/**
 * The shape with a corner moved. The corner across from it stays where it is, or the middle does. Boxes and hulls follow
 * along each of their axes; round kinds grow alike in all directions. It never turns inside out.
 *
 * @param by metres
 */
export function dragCorner(
  shape: Shape,
  id: string,
  by: Readonly<Vec3>,
  { held = 'corner' }: { held?: 'corner' | 'middle' } = {},
): Shape {
  const sides = SIDES.find((each) => idOf(each) === id);
  if (!sides || shape.kind === 'surface') return shape;
  const frame = ownFrame(shape);
  const own = rotate(inverseQuat(frame.rotation), by);
  const reach = held === 'middle' ? 2 : 1;
  if (shape.kind === 'box' || shape.kind === 'hull')
    return sides.reduce<Shape>(
      (now, side, axis) =>
        resizeShape(
          now,
          axis as 0 | 1 | 2,
          frame.size[axis]! + reach * side * own[axis]!,
          held === 'middle' ? 0 : (-side as 1 | -1),
        ),
      shape,
    );
  const diagonal = frame.size.map((extent, k) => extent * sides[k]!) as Vec3;
  const least = MIN_THICKNESS_METRES / Math.min(...frame.size);
  const factor = Math.max(least, 1 + (reach * dot(own, diagonal)) / dot(diagonal, diagonal));
  const fixed = held === 'middle' ? frame.center : fromOwn(frame, scaled(diagonal, -0.5));
  return moveShape(scaleShape(moveShape(shape, scaled(fixed, -1)), factor), fixed);
}
