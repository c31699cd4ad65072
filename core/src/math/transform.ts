import { mat4 } from 'gl-matrix';
import { cross, dot, length, normalized, type Quat, quatFromAxes, scaled, type Vec3 } from './vector.js';

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

/** The inverse, or null for a matrix that flattens. */
export function invertMatrix(m: Matrix): Matrix | null {
  return mat4.invert(newMatrix() as mat4, m as mat4) as Matrix | null;
}

export const applyMatrix = (m: Matrix, [x, y, z]: Readonly<Vec3>): Vec3 => [
  m[0]! * x + m[4]! * y + m[8]! * z + m[12]!,
  m[1]! * x + m[5]! * y + m[9]! * z + m[13]!,
  m[2]! * x + m[6]! * y + m[10]! * z + m[14]!,
];

const columnsOf = (m: Matrix): [Vec3, Vec3, Vec3] => [
  [m[0]!, m[1]!, m[2]!],
  [m[4]!, m[5]!, m[6]!],
  [m[8]!, m[9]!, m[10]!],
];

export const placeOf = (m: Matrix): Vec3 => [m[12]!, m[13]!, m[14]!];

/** How far the columns are from square to each other: 0 for turn and scale alone, up to 1. */
export function shearOf(m: Matrix): number {
  const [x, y, z] = columnsOf(m).map(normalized) as [Vec3, Vec3, Vec3];
  return Math.max(Math.abs(dot(x, y)), Math.abs(dot(y, z)), Math.abs(dot(z, x)));
}

/**
 * Position, rotation and scale of a matrix; a mirror goes into the scale along x. What shear there is, is
 * lost: ask `shearOf` first.
 */
export function decomposeMatrix(m: Matrix): Transform {
  const [x, y, z] = columnsOf(m);
  const mirror = determinant3(m) < 0 ? -1 : 1;
  const scale: Vec3 = [length(x) * mirror, length(y), length(z)];
  // Square axes are made even from columns that are nearly so, or flat.
  const ux = normalized(scaled(x, mirror));
  const along = normalized([0, 1, 2].map((k) => y[k]! - ux[k]! * dot(ux, y)) as Vec3);
  const uy =
    length(along) > 0.5 ? along : normalized(cross(Math.abs(ux[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0], ux));
  const rotation = length(ux) > 0.5 ? quatFromAxes(ux, uy, cross(ux, uy)) : ([0, 0, 0, 1] as Quat);
  return { translation: placeOf(m), rotation, scale };
}
