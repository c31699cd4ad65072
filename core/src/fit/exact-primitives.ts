import {
  boundsOf,
  centreOf,
  diagonalOf,
  distance,
  dot,
  normalized,
  quatFromAxes,
  axesFrom,
  subtract,
  type Vec3,
} from '../math/index.js';
import { boxCorners, type BoxShape, type CapsuleShape, type SphereShape } from '../shape/index.js';
import { minVolumeBox } from './min-volume-box.js';

/** How far a point may lie off, as a share of the size: single precision and coarse segments leave this much. */
const TOLERANCE_SHARE = 1e-3;

const pointsOf = (positions: Float64Array): Vec3[] =>
  Array.from({ length: positions.length / 3 }, (_, i) => [
    positions[i * 3]!,
    positions[i * 3 + 1]!,
    positions[i * 3 + 2]!,
  ]);

/** The box whose corners the points are, however it is turned; null when they are none. Shape: [3n]. */
export function exactBox(positions: Float64Array): BoxShape | null {
  const size = diagonalOf(boundsOf(positions));
  const box = minVolumeBox(positions, { worthTurning: 1e-6 });
  const corners = boxCorners(box.center, box.halfExtents, box.rotation);
  const near = (a: Vec3, b: Vec3) => distance(a, b) <= size * TOLERANCE_SHARE;
  const points = pointsOf(positions);
  return points.every((p) => corners.some((c) => near(c, p))) &&
    corners.every((c) => points.some((p) => near(c, p)))
    ? box
    : null;
}

/** The sphere the points lie on; null when they do not. Shape: [3n]. */
export function exactSphere(positions: Float64Array): SphereShape | null {
  const center = centreOf(boundsOf(positions));
  const radii = pointsOf(positions).map((p) => distance(p, center));
  const radius = Math.max(...radii);
  if (radii.length < 12 || radius - Math.min(...radii) > radius * TOLERANCE_SHARE * 10) return null;
  return { kind: 'sphere', center, radius };
}

/** The capsule the points lie on; null when they do not. Shape: [3n]. */
export function exactCapsule(positions: Float64Array): CapsuleShape | null {
  const points = pointsOf(positions);
  if (points.length < 12) return null;
  const middle = centreOf(boundsOf(positions));
  const pole = points.reduce((best, p) => (distance(p, middle) > distance(best, middle) ? p : best));
  const other = points.reduce((best, p) => (distance(p, pole) > distance(best, pole) ? p : best));
  const center = [0, 1, 2].map((k) => (pole[k]! + other[k]!) / 2) as Vec3;
  const axis = normalized(subtract(pole, other));
  const along = (p: Vec3) => dot(subtract(p, center), axis);
  const aside = (p: Vec3) => Math.sqrt(Math.max(0, distance(p, center) ** 2 - along(p) ** 2));
  const radius = Math.max(...points.map(aside));
  const halfLength = distance(pole, other) / 2 - radius;
  if (halfLength < 0) return null;
  const off = (p: Vec3) =>
    Math.abs(Math.hypot(aside(p), Math.max(0, Math.abs(along(p)) - halfLength)) - radius);
  if (points.some((p) => off(p) > radius * TOLERANCE_SHARE * 10)) return null;
  const [x, y, z] = axesFrom(axis, [1, 0, 0]);
  return { kind: 'capsule', center, rotation: quatFromAxes(x, y, z), radius, halfLength };
}
