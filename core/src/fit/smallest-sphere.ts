import type { Vec3 } from '../math/index.js';
import { MIN_THICKNESS_METRES, type SphereShape } from '../shape/index.js';

/**
 * The smallest sphere round packed points ([3n], n > 0), exact to rounding. (Welzl 1991, with the point that
 * lies farthest outside moved to the front as in Gaertner 1999.)
 */
export function smallestSphere(points: ArrayLike<number>): SphereShape {
  const n = points.length / 3;
  const at = (i: number): Vec3 => [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
  const away = (b: Ball, i: number) =>
    (points[i * 3]! - b.x) ** 2 + (points[i * 3 + 1]! - b.y) ** 2 + (points[i * 3 + 2]! - b.z) ** 2;
  // The points that ever held the ball, most recent first: Welzl's recursion runs over these few only.
  const front: number[] = [0];
  let ball = through([at(0)])!;
  for (let round = 0; round < 200; round++) {
    let far = -1;
    let most = ball.r2 * (1 + 1e-14);
    for (let i = 0; i < n; i++) {
      const d = away(ball, i);
      if (d > most) {
        most = d;
        far = i;
      }
    }
    if (far < 0 || front[0] === far) break;
    const known = front.indexOf(far);
    if (known >= 0) front.splice(known, 1);
    front.unshift(far);
    const next = welzl(front.map(at), front.length, []);
    if (!(next.r2 > ball.r2)) break;
    ball = next;
  }
  let radius = 0;
  for (let i = 0; i < n; i++) radius = Math.max(radius, away(ball, i));
  return {
    kind: 'sphere',
    center: [ball.x, ball.y, ball.z],
    radius: Math.max(Math.sqrt(radius), MIN_THICKNESS_METRES / 2),
  };
}

interface Ball {
  x: number;
  y: number;
  z: number;
  r2: number;
}

function welzl(points: Vec3[], count: number, held: Vec3[]): Ball {
  let ball = through(held) ?? { x: 0, y: 0, z: 0, r2: -1 };
  if (held.length === 4) return ball;
  for (let i = 0; i < count; i++) {
    const p = points[i]!;
    const d = (p[0] - ball.x) ** 2 + (p[1] - ball.y) ** 2 + (p[2] - ball.z) ** 2;
    if (d <= ball.r2 * (1 + 1e-13)) continue;
    const next = through([...held, p]) && welzl(points, i, [...held, p]);
    if (next) ball = next;
  }
  return ball;
}

/** The smallest ball with all of up to four points on it; null when they are too near to one line or plane. */
function through(held: readonly Vec3[]): Ball | null {
  if (held.length === 0) return null;
  const [o, ...rest] = held as [Vec3, ...Vec3[]];
  const edges = rest.map((p) => [p[0] - o[0], p[1] - o[1], p[2] - o[2]]);
  // The centre is o plus a mix of the edges, as far from every point as from o: a small linear system.
  const n = edges.length;
  const m = edges.map((e, i) => [
    ...edges.map((f) => 2 * (e[0]! * f[0]! + e[1]! * f[1]! + e[2]! * f[2]!)),
    edges[i]!.reduce((sum, v) => sum + v * v, 0),
  ]);
  const size = Math.max(0, ...m.map((row) => Math.abs(row[n]!)));
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(m[r]![c]!) > Math.abs(m[pivot]![c]!)) pivot = r;
    [m[c], m[pivot]] = [m[pivot]!, m[c]!];
    if (Math.abs(m[c]![c]!) <= size * 1e-13) return null;
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const factor = m[r]![c]! / m[c]![c]!;
      for (let k = c; k <= n; k++) m[r]![k]! -= factor * m[c]![k]!;
    }
  }
  const d = [0, 1, 2].map((k) => edges.reduce((sum, e, i) => sum + (e[k]! * m[i]![n]!) / m[i]![i]!, 0));
  return {
    x: o[0] + d[0]!,
    y: o[1] + d[1]!,
    z: o[2] + d[2]!,
    r2: d.reduce((sum, v) => sum + v * v, 0),
  };
}
