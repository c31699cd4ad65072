import type { ConvexHull } from '../hull/index.js';
import type { Vec3 } from '../math/index.js';
import type { SolidDistance } from '../solid/index.js';

/** Places along a long edge at most. */
const FINEST = 6;

/** How far the surface of a hull stands off the art at most, by places spread over its faces; inside the art is 0. */
export function hullStandOff({ points: q, faces }: ConvexHull, art: SolidDistance, size: number): number {
  let most = size * 1e-9;
  let found = 0;
  const at: Vec3 = [0, 0, 0];
  const ask = (x: number, y: number, z: number) => {
    at[0] = x;
    at[1] = y;
    at[2] = z;
    const distance = art.closest(at)?.distance ?? 0;
    if (distance <= most || art.inside(at)) return;
    most = found = distance;
  };
  for (const face of faces) {
    const a = face[0]! * 3;
    for (let i = 1; i + 1 < face.length; i++) {
      const b = face[i]! * 3;
      const c = face[i + 1]! * 3;
      const long = Math.max(edge(q, a, b), edge(q, b, c), edge(q, c, a));
      const steps = Math.max(2, Math.min(FINEST, Math.ceil((long / size) * 12)));
      for (let s = 0; s <= steps; s++)
        for (let t = 0; s + t <= steps; t++) {
          // The corners of a hull are places of the art.
          if (s === steps || t === steps || s + t === 0) continue;
          const [u, v] = [s / steps, t / steps];
          const w = 1 - u - v;
          ask(
            q[a]! * w + q[b]! * u + q[c]! * v,
            q[a + 1]! * w + q[b + 1]! * u + q[c + 1]! * v,
            q[a + 2]! * w + q[b + 2]! * u + q[c + 2]! * v,
          );
        }
    }
  }
  return found;
}

const edge = (q: ArrayLike<number>, a: number, b: number): number =>
  Math.hypot(q[a]! - q[b]!, q[a + 1]! - q[b + 1]!, q[a + 2]! - q[b + 2]!);
