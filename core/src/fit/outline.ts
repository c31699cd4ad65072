/** A point in a plane. */
export type Vec2 = [number, number];

/** Convex outline of points in the plane, counter-clockwise (Andrew's monotone chain, 1979). */
export function outline2d(points: readonly Vec2[]): Vec2[] {
  const sorted = withoutVanishing(points).sort((p, q) => p[0] - q[0] || p[1] - q[1]);
  const half = (ordered: Vec2[]) => {
    const chain: Vec2[] = [];
    for (const p of ordered) {
      while (chain.length > 1 && turn(chain[chain.length - 2]!, chain[chain.length - 1]!, p) <= 0)
        chain.pop();
      chain.push(p);
    }
    chain.pop();
    return chain;
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/** Coordinates whose products would vanish are 0: else corners would vanish with them. */
function withoutVanishing(points: readonly Vec2[]): Vec2[] {
  let least = 1e-140;
  for (const [x, y] of points) least = Math.max(least, Math.abs(x) * 1e-100, Math.abs(y) * 1e-100);
  const vanishes = (v: number) => v !== 0 && Math.abs(v) < least;
  if (!points.some(([x, y]) => vanishes(x) || vanishes(y))) return [...points];
  return points.map(([x, y]) => [vanishes(x) ? 0 : x, vanishes(y) ? 0 : y]);
}

const turn = (o: Vec2, a: Vec2, b: Vec2) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

export interface Rectangle {
  /** direction of its first side */
  along: Vec2;
  /** centre, measured along its own sides */
  middle: Vec2;
  half: Vec2;
}

/** The rectangle of least area round a convex outline: one of its sides lies on one of the outline's. */
export function smallestRectangle(outline: readonly Vec2[]): Rectangle {
  let best: Rectangle = { along: [1, 0], middle: [0, 0], half: [Infinity, Infinity] };
  const measure = (c: number, s: number) => {
    let x0 = Infinity,
      x1 = -Infinity,
      y0 = Infinity,
      y1 = -Infinity;
    for (let i = 0; i < outline.length; i++) {
      const [px, py] = outline[i]!;
      const x = px * c + py * s;
      const y = py * c - px * s;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
    // Of equal rectangles the first stays: rounding alone must not turn a box.
    if ((x1 - x0) * (y1 - y0) < 4 * best.half[0] * best.half[1] * (1 - 1e-12)) {
      best = { along: [c, s], middle: [(x0 + x1) / 2, (y0 + y1) / 2], half: [(x1 - x0) / 2, (y1 - y0) / 2] };
    }
  };
  if (outline.length < 3) measure(1, 0);
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    const b = outline[(i + 1) % outline.length]!;
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (l > 0) measure((b[0] - a[0]) / l, (b[1] - a[1]) / l);
  }
  return best;
}

/** The smallest circle round points in the plane (Welzl 1991, over the outline). */
export function smallestCircle(points: readonly Vec2[]): { center: Vec2; radius: number } {
  const outline = points.length > 3 ? outline2d(points) : [...points];
  const hull = outline.length ? outline : [points[0]!];
  let c: Vec2 = hull[0]!;
  let r = 0;
  const out = (p: Vec2) => Math.hypot(p[0] - c[0], p[1] - c[1]) > r * (1 + 1e-13);
  for (let i = 1; i < hull.length; i++) {
    if (!out(hull[i]!)) continue;
    [c, r] = [hull[i]!, 0];
    for (let j = 0; j < i; j++) {
      if (!out(hull[j]!)) continue;
      [c, r] = across(hull[i]!, hull[j]!);
      for (let k = 0; k < j; k++) if (out(hull[k]!)) [c, r] = round(hull[i]!, hull[j]!, hull[k]!) ?? [c, r];
    }
  }
  return { center: c, radius: Math.max(...hull.map((p) => Math.hypot(p[0] - c[0], p[1] - c[1]))) };
}

const across = (a: Vec2, b: Vec2): [Vec2, number] => [
  [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2],
  Math.hypot(a[0] - b[0], a[1] - b[1]) / 2,
];

function round(a: Vec2, b: Vec2, c: Vec2): [Vec2, number] | null {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
  const d = 2 * (ux * vy - uy * vx);
  if (d === 0) return null;
  const [u, v] = [ux * ux + uy * uy, vx * vx + vy * vy];
  const [x, y] = [(vy * u - uy * v) / d, (ux * v - vx * u) / d];
  return [[a[0] + x, a[1] + y], Math.hypot(x, y)];
}
