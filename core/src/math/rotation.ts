import { dot, cross, length, normalized, type Quat, scaled, add, type Vec3 } from './vector.js';

/** `outer * inner`: a direction is turned by `inner` first. */
export const multiplyQuats = (a: Readonly<Quat>, b: Readonly<Quat>): Quat => [
  a[3] * b[0] + a[0] * b[3] + a[1] * b[2] - a[2] * b[1],
  a[3] * b[1] - a[0] * b[2] + a[1] * b[3] + a[2] * b[0],
  a[3] * b[2] + a[0] * b[1] - a[1] * b[0] + a[2] * b[3],
  a[3] * b[3] - a[0] * b[0] - a[1] * b[1] - a[2] * b[2],
];

export const inverseQuat = (q: Readonly<Quat>): Quat => [-q[0], -q[1], -q[2], q[3]];

export function quatAbout(axis: Readonly<Vec3>, radians: number): Quat {
  const [x, y, z] = scaled(normalized(axis), Math.sin(radians / 2));
  return [x, y, z, Math.cos(radians / 2)];
}

/** A turn that brings `y` up and `x` as near to its direction as that allows. Both are not zero, not parallel. */
export function axesFrom(y: Readonly<Vec3>, x: Readonly<Vec3>): [Vec3, Vec3, Vec3] {
  const up = normalized(y);
  let side = add(x, scaled(up, -dot(x, up)));
  if (length(side) < 1e-9) side = Math.abs(up[0]) < 0.9 ? cross(up, [1, 0, 0]) : cross(up, [0, 0, 1]);
  // Once more: what is left of a nearly parallel direction is mostly rounding.
  side = normalized(side);
  const right = normalized(add(side, scaled(up, -dot(side, up))));
  return [right, up, cross(right, up)];
}

/** Two directions across an axis, square to each other, from which angles about it are counted. */
export function axesAcross(axis: Readonly<Vec3>): [Vec3, Vec3] {
  const first: Vec3 = Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1];
  const second = normalized(cross(axis, first));
  return [normalized(cross(second, axis)), second];
}

/** Columns, [9]. */
export type Matrix3 = number[];

/**
 * Any linear map as turn, scale, turn: `m = outer * diag(scale) * inner`. (Singular values by one-sided
 * Jacobi rotations, Hestenes 1958.) Turns are proper; a mirror goes into the scale.
 *
 * @param m columns, [9]
 */
export function turnScaleTurn(m: readonly number[]): { outer: Matrix3; scale: Vec3; inner: Matrix3 } {
  const u = [...m];
  const v = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  const column = (a: number[], i: number) => [a[i * 3]!, a[i * 3 + 1]!, a[i * 3 + 2]!] as Vec3;
  const mix = (a: number[], i: number, j: number, c: number, s: number) => {
    for (let k = 0; k < 3; k++) {
      const [x, y] = [a[i * 3 + k]!, a[j * 3 + k]!];
      a[i * 3 + k] = c * x - s * y;
      a[j * 3 + k] = s * x + c * y;
    }
  };
  for (let sweep = 0; sweep < 30; sweep++) {
    let off = 0;
    for (const [i, j] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      const [a, b] = [column(u, i), column(u, j)];
      const [aa, bb, ab] = [dot(a, a), dot(b, b), dot(a, b)];
      if (Math.abs(ab) <= 1e-15 * Math.sqrt(aa * bb) || ab === 0) continue;
      off = 1;
      const tau = (bb - aa) / (2 * ab);
      const t = Math.sign(tau || 1) / (Math.abs(tau) + Math.sqrt(1 + tau * tau));
      const c = 1 / Math.sqrt(1 + t * t);
      mix(u, i, j, c, c * t);
      mix(v, i, j, c, c * t);
    }
    if (!off) break;
  }
  const scale = [0, 1, 2].map((i) => length(column(u, i))) as Vec3;
  const largest = scale.indexOf(Math.max(...scale));
  const axes = [0, 1, 2].map((i) => normalized(column(u, i))) as [Vec3, Vec3, Vec3];
  // A flattened direction has no axis of its own: it takes the one that is left.
  for (let i = 0; i < 3; i++) {
    if (scale[i]! > scale[largest]! * 1e-14) continue;
    scale[i] = 0;
    const [a, b] = [axes[(i + 1) % 3]!, axes[(i + 2) % 3]!];
    axes[i] = length(cross(a, b)) > 0.5 ? cross(a, b) : axesFrom(a, [1, 0, 0])[2];
  }
  const outer = axes.flat();
  if (dot(cross(axes[0], axes[1]), axes[2]) < 0) {
    for (let k = 0; k < 3; k++) outer[k]! *= -1;
    scale[0] *= -1;
  }
  // Columns of v are orthonormal and right-handed from the start; the inner turn is its transpose.
  const inner = [v[0]!, v[3]!, v[6]!, v[1]!, v[4]!, v[7]!, v[2]!, v[5]!, v[8]!];
  return { outer, scale, inner };
}
