import { quatAbout, scaled, type Vec3 } from '../math/index.js';
import { moveShape, type Shape, turnShapeAbout } from '../shape/index.js';

/** Copies beside the shape, the shape itself not among them: the first is one step away. */
export const repeatAlong = (shape: Shape, step: Readonly<Vec3>, copies: number): Shape[] =>
  Array.from({ length: copies }, (_, i) => moveShape(shape, scaled(step, i + 1)));

export interface RoundAxis {
  /** a point of the axis */
  point: Readonly<Vec3>;
  axis: Readonly<Vec3>;
  /** between one copy and the next */
  degrees: number;
}

/** Copies round an axis, the shape itself not among them. */
export const repeatRound = (shape: Shape, { point, axis, degrees }: RoundAxis, copies: number): Shape[] =>
  Array.from({ length: copies }, (_, i) =>
    turnShapeAbout(shape, quatAbout(axis, (degrees * (i + 1) * Math.PI) / 180), point),
  );
