import { inverseQuat, multiplyQuats, type Quat, quatAbout, type Vec3 } from '@yard-brace/core';

const DEGREES = 180 / Math.PI;

/** A rotation as degrees about x, then y, then z of the piece; about y within a quarter turn to either side. */
export function degreesOf([x, y, z, w]: Readonly<Quat>): Vec3 {
  const sine = Math.min(1, Math.max(-1, 2 * (w * y - z * x)));
  const about = Math.asin(sine) * DEGREES;
  // Straight up or down, x and z turn about the same axis: all of it is said of x.
  if (Math.abs(sine) > 1 - 1e-12) return [2 * Math.atan2(x, w) * DEGREES, about, 0];
  return [
    Math.atan2(2 * (w * x + y * z), 1 - 2 * (x * x + y * y)) * DEGREES,
    about,
    Math.atan2(2 * (w * z + x * y), 1 - 2 * (y * y + z * z)) * DEGREES,
  ];
}

/** The rotation of degrees about x, then y, then z. */
export function turnOfDegrees([x, y, z]: Readonly<Vec3>): Quat {
  const about = (axis: Vec3, degrees: number) => quatAbout(axis, degrees / DEGREES);
  return multiplyQuats(about([0, 0, 1], z), multiplyQuats(about([0, 1, 0], y), about([1, 0, 0], x)));
}

/** The turn that leads from one rotation to another. */
export const turnBetween = (from: Readonly<Quat>, to: Readonly<Quat>): Quat =>
  multiplyQuats(to, inverseQuat(from));
