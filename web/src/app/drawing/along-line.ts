import { add, dot, scaled, subtract, type Vec3 } from '@yard-brace/core';

/** A ray from the eye. */
export interface Sightline {
  origin: Readonly<Vec3>;
  /** unit length */
  direction: Readonly<Vec3>;
}

/** How far along a line (unit `direction`) a ray passes it nearest, in metres; null when it looks along the line. */
export function alongLine(ray: Sightline, at: Readonly<Vec3>, direction: Readonly<Vec3>): number | null {
  const between = subtract(at, ray.origin);
  const [c, a, b] = [dot(ray.direction, direction), dot(between, ray.direction), dot(between, direction)];
  const sine = 1 - c * c;
  return sine > 1e-4 ? (a * c - b) / sine : null;
}

/** Where a ray meets the plane through a point; null when it runs along it or away from it. */
export function onPlane(ray: Sightline, at: Readonly<Vec3>, normal: Readonly<Vec3>): Vec3 | null {
  const slope = dot(ray.direction, normal);
  if (Math.abs(slope) < 1e-3) return null;
  const far = dot(subtract(at, ray.origin), normal) / slope;
  return far > 0 ? add(ray.origin, scaled(ray.direction, far)) : null;
}
