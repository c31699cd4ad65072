import type { Vec3 } from './vector.js';

/**
 * The normal of a triangle, twice its area long, with its corners given by where they start in packed
 * coordinates. Shape of `p`: [3n].
 *
 * @example areaVector(mesh.positions, indices[0] * 3, indices[1] * 3, indices[2] * 3)
 */
export function areaVector(p: ArrayLike<number>, a: number, b: number, c: number): Vec3 {
  const ux = p[b]! - p[a]!,
    uy = p[b + 1]! - p[a + 1]!,
    uz = p[b + 2]! - p[a + 2]!;
  const vx = p[c]! - p[a]!,
    vy = p[c + 1]! - p[a + 1]!,
    vz = p[c + 2]! - p[a + 2]!;
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

/** The area of a triangle, its corners given as in `areaVector`. */
export function triangleArea(p: ArrayLike<number>, a: number, b: number, c: number): number {
  const n = areaVector(p, a, b, c);
  return Math.hypot(n[0], n[1], n[2]) / 2;
}

/** Six times the signed volume between a triangle and the point `x, y, z`; corners as in `areaVector`. */
export function sixfoldVolume(
  p: ArrayLike<number>,
  a: number,
  b: number,
  c: number,
  x: number,
  y: number,
  z: number,
): number {
  const ax = p[a]! - x,
    ay = p[a + 1]! - y,
    az = p[a + 2]! - z;
  const bx = p[b]! - x,
    by = p[b + 1]! - y,
    bz = p[b + 2]! - z;
  const cx = p[c]! - x,
    cy = p[c + 1]! - y,
    cz = p[c + 2]! - z;
  return ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
}
