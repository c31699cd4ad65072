import { mat4 } from 'gl-matrix';
import type { Quat, Vec3 } from './vector.js';

/** A 4 x 4 matrix, column major, in double precision. Shape: [16]. */
export type Matrix = Float64Array;

/** Position, rotation and scale of a node, applied in the order scale, rotation, translation. */
export interface Transform {
  translation: Vec3;
  rotation: Quat;
  scale: Vec3;
}

const newMatrix = (): Matrix => mat4.identity(new Float64Array(16) as mat4) as Matrix;

export function composeMatrix({ translation, rotation, scale }: Transform): Matrix {
  return mat4.fromRotationTranslationScale(newMatrix() as mat4, rotation, translation, scale) as Matrix;
}

/** `outer * inner`: a point goes through `inner` first. */
export function multiplyMatrices(outer: Matrix, inner: Matrix): Matrix {
  return mat4.multiply(newMatrix() as mat4, outer as mat4, inner as mat4) as Matrix;
}

export function scalingMatrix(factor: number): Matrix {
  return mat4.fromScaling(newMatrix() as mat4, [factor, factor, factor]) as Matrix;
}

/** Negative when the matrix mirrors, zero when it flattens. */
export function determinant3(m: Matrix): number {
  return (
    m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) -
    m[4]! * (m[1]! * m[10]! - m[2]! * m[9]!) +
    m[8]! * (m[1]! * m[6]! - m[2]! * m[5]!)
  );
}

/** The upper 3 x 3 cofactors, column major: turns normals even under shear and mirror. Shape: [9]. */
export function normalMatrix(m: Matrix): Float64Array {
  const [a, b, c, , d, e, f, , g, h, i] = m as unknown as number[] as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const sign = determinant3(m) < 0 ? -1 : 1;
  return Float64Array.of(
    sign * (e * i - f * h),
    sign * (f * g - d * i),
    sign * (d * h - e * g),
    sign * (c * h - b * i),
    sign * (a * i - c * g),
    sign * (b * g - a * h),
    sign * (b * f - c * e),
    sign * (c * d - a * f),
    sign * (a * e - b * d),
  );
}
