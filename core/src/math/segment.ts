import { distance, dot, subtract, type Vec3 } from './vector.js';

/** Metres along a line, from place to place. */
export const lineLength = (line: readonly Readonly<Vec3>[]): number =>
  line.reduce((sum, place, i) => sum + (i ? distance(line[i - 1]!, place) : 0), 0);

/** The place on a straight stretch between two others that is nearest to a place. */
export function nearestOnSegment(p: Readonly<Vec3>, a: Readonly<Vec3>, b: Readonly<Vec3>): Vec3 {
  const ab = subtract(b, a);
  const t = Math.min(1, Math.max(0, dot(subtract(p, a), ab) / (dot(ab, ab) || 1)));
  return [a[0] + ab[0] * t, a[1] + ab[1] * t, a[2] + ab[2] * t];
}

/** Metres from a place to a straight stretch between two others. */
export const distanceToSegment = (p: Readonly<Vec3>, a: Readonly<Vec3>, b: Readonly<Vec3>): number =>
  distance(p, nearestOnSegment(p, a, b));
