import {
  decomposeMatrix,
  type Matrix,
  placeOf,
  type Quat,
  quatFromAxes,
  shearOf,
  type Transform,
  turnScaleTurn,
} from '../math/index.js';

/** A matrix as one node's transform, or as those of two below each other where it shears. */
export function asTransforms(matrix: Matrix): Transform[] {
  if (shearOf(matrix) < 1e-9) return [decomposeMatrix(matrix)];
  const m = matrix;
  const { outer, scale, inner } = turnScaleTurn([
    m[0]!,
    m[1]!,
    m[2]!,
    m[4]!,
    m[5]!,
    m[6]!,
    m[8]!,
    m[9]!,
    m[10]!,
  ]);
  const turn = (c: number[]): Quat =>
    quatFromAxes([c[0]!, c[1]!, c[2]!], [c[3]!, c[4]!, c[5]!], [c[6]!, c[7]!, c[8]!]);
  return [
    { translation: placeOf(m), rotation: turn(outer), scale },
    { translation: [0, 0, 0], rotation: turn(inner), scale: [1, 1, 1] },
  ];
}
