import type { ConvexHull } from '../hull/index.js';
import { fanTriangles } from '../shape/index.js';
import type { Vec3 } from '../math/index.js';
import type { SolidDistance } from '../solid/index.js';

/** Places along a long edge at most. */
const FINEST = 6;

/** How far the surface of a hull stands off the art at most, by places spread over its faces; inside the art is 0. */
export function hullStandOff({ points: q, faces }: ConvexHull, art: SolidDistance, size: number): number {
  let most = size * 1e-9;
  let found = 0;
  const at: Vec3 = [0, 0, 0];
  const ask = (a: number, b: number, c: number, u: number, v: number) => {
    const w = 1 - u - v;
    const x = (at[0] = q[a]! * w + q[b]! * u + q[c]! * v);
    const y = (at[1] = q[a + 1]! * w + q[b + 1]! * u + q[c + 1]! * v);
    const z = (at[2] = q[a + 2]! * w + q[b + 2]! * u + q[c + 2]! * v);
    // Corners of the hull are places of the art: no place is farther from it than from them.
    const bound = Math.min(
      (q[a]! - x) ** 2 + (q[a + 1]! - y) ** 2 + (q[a + 2]! - z) ** 2,
      (q[b]! - x) ** 2 + (q[b + 1]! - y) ** 2 + (q[b + 2]! - z) ** 2,
      (q[c]! - x) ** 2 + (q[c + 1]! - y) ** 2 + (q[c + 2]! - z) ** 2,
    );
    if (bound <= most * most) return;
    const distance = art.closest(at, Math.sqrt(bound) * (1 + 1e-9))?.distance ?? 0;
    if (distance <= most || art.inside(at)) return;
    most = found = distance;
  };
  const corners = fanTriangles(faces);
  // The middles first: what they find spares most of the rest.
  for (let i = 0; i < corners.length; i += 3)
    ask(corners[i]! * 3, corners[i + 1]! * 3, corners[i + 2]! * 3, 1 / 3, 1 / 3);
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [corners[i]! * 3, corners[i + 1]! * 3, corners[i + 2]! * 3];
    const long = Math.max(edge(q, a, b), edge(q, b, c), edge(q, c, a));
    if (long < most) continue;
    const steps = Math.max(2, Math.min(FINEST, Math.ceil((long / size) * 12)));
    for (let s = 0; s <= steps; s++)
      for (let t = 0; s + t <= steps; t++)
        if (s < steps && t < steps && s + t > 0) ask(a, b, c, s / steps, t / steps);
  }
  return found;
}

const edge = (q: ArrayLike<number>, a: number, b: number): number =>
  Math.hypot(q[a]! - q[b]!, q[a + 1]! - q[b + 1]!, q[a + 2]! - q[b + 2]!);
