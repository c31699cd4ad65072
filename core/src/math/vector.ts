/** A point or direction: x, y, z. */
export type Vec3 = [number, number, number];
/** A unit quaternion: x, y, z, w. */
export type Quat = [number, number, number, number];

export const NO_ROTATION: Readonly<Quat> = [0, 0, 0, 1];

export const add = (a: Readonly<Vec3>, b: Readonly<Vec3>): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Readonly<Vec3>, b: Readonly<Vec3>): Vec3 => [
  a[0] - b[0],
  a[1] - b[1],
  a[2] - b[2],
];
export const scaled = (a: Readonly<Vec3>, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Readonly<Vec3>, b: Readonly<Vec3>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const length = (a: Readonly<Vec3>): number => Math.hypot(a[0], a[1], a[2]);
export const distance = (a: Readonly<Vec3>, b: Readonly<Vec3>): number => length(subtract(a, b));
export const cross = (a: Readonly<Vec3>, b: Readonly<Vec3>): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The unit vector along `a`; the zero vector stays zero. */
export function normalized(a: Readonly<Vec3>): Vec3 {
  const l = length(a);
  return l > 0 ? [a[0] / l, a[1] / l, a[2] / l] : [0, 0, 0];
}

/** `v` turned by the unit quaternion `q`. */
export function rotate(q: Readonly<Quat>, v: Readonly<Vec3>): Vec3 {
  const axis: Vec3 = [q[0], q[1], q[2]];
  const t = scaled(cross(axis, v), 2);
  return add(add(v, scaled(t, q[3])), cross(axis, t));
}

/**
 * The rotation whose columns are the three given axes.
 * The axes are orthonormal and right-handed. (Shepperd's method: divide by the largest component.)
 */
export function quatFromAxes(x: Readonly<Vec3>, y: Readonly<Vec3>, z: Readonly<Vec3>): Quat {
  const trace = x[0] + y[1] + z[2];
  let q: Quat;
  if (trace >= Math.max(x[0], y[1], z[2])) q = [y[2] - z[1], z[0] - x[2], x[1] - y[0], 1 + trace];
  else if (x[0] >= y[1] && x[0] >= z[2]) q = [1 + x[0] - y[1] - z[2], x[1] + y[0], z[0] + x[2], y[2] - z[1]];
  else if (y[1] >= z[2]) q = [x[1] + y[0], 1 - x[0] + y[1] - z[2], y[2] + z[1], z[0] - x[2]];
  else q = [z[0] + x[2], y[2] + z[1], 1 - x[0] - y[1] + z[2], x[1] - y[0]];
  const l = Math.hypot(...q);
  return [q[0] / l, q[1] / l, q[2] / l, q[3] / l];
}
