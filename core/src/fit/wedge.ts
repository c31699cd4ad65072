import { convexHull, hullShape } from '../hull/index.js';
import type { HullShape } from '../shape/index.js';
import { MIN_THICKNESS_METRES } from '../shape/index.js';
import { outline2d, type Vec2 } from './outline.js';

/**
 * The smallest right-angled wedge round packed points ([3n], n > 0) with two faces along the axes: one step of a flight,
 * a ramp, a buttress. Of the three axes it may lie along and the four corners its right angle may sit in the smallest
 * counts; its slope is the line over the points' outline that cuts the least triangle off the corner, which touches the
 * outline along an edge or in the middle of the slope.
 */
export function wedge(points: ArrayLike<number>): HullShape {
  let best: { volume: number; corners: number[] } | null = null;
  for (const axis of [0, 1, 2] as const) {
    const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
    const [low, high] = thick(...range(points, axis));
    const flat = Array.from({ length: points.length / 3 }, (_, i): Vec2 => [
      points[i * 3 + u]!,
      points[i * 3 + v]!,
    ]);
    const around = outline2d(flat);
    // One place has no outline.
    const outline = around.length ? around : flat;
    for (const [su, sv] of [
      [1, 1],
      [-1, 1],
      [-1, -1],
      [1, -1],
    ] as const) {
      const { corner, legs } = leastTriangle(outline, su, sv);
      const volume = (legs[0] * legs[1] * (high - low)) / 2;
      if (best && volume >= best.volume * (1 - 1e-9)) continue;
      const corners: number[] = [];
      for (const along of [low, high])
        for (const [a, b] of [
          corner,
          [corner[0] + su * legs[0], corner[1]],
          [corner[0], corner[1] + sv * legs[1]],
        ]) {
          const p = [0, 0, 0];
          p[axis] = along;
          p[u] = a!;
          p[v] = b!;
          corners.push(...p);
        }
      best = { volume, corners };
    }
  }
  const result = convexHull(best!.corners);
  if (result.span !== 'solid') throw new RangeError('A wedge thinner than rounding has no faces.');
  return hullShape(result.hull);
}

/** A right-angled triangle over an outline, its legs running from the corner along (su, 0) and (0, sv). */
function leastTriangle(outline: readonly Vec2[], su: number, sv: number): { corner: Vec2; legs: Vec2 } {
  // In the frame where the corner is at the lower left.
  const local = outline.map(([a, b]): Vec2 => [a * su, b * sv]);
  const [x0, x1] = thick(Math.min(...local.map(([a]) => a)), Math.max(...local.map(([a]) => a)));
  const [y0, y1] = thick(Math.min(...local.map(([, b]) => b)), Math.max(...local.map(([, b]) => b)));
  const from = local.map(([a, b]): Vec2 => [a - x0, b - y0]);
  let legs: Vec2 = [2 * (x1 - x0), 2 * (y1 - y0)];
  const offer = (nx: number, ny: number) => {
    if (!(nx > 0 && ny > 0)) return;
    const far = Math.max(...from.map(([a, b]) => nx * a + ny * b));
    const tried: Vec2 = [far / nx, far / ny];
    if (tried[0] * tried[1] < legs[0] * legs[1] * (1 - 1e-12)) legs = tried;
  };
  from.forEach(([a, b], i) => {
    const [c, d] = from[(i + 1) % from.length]!;
    offer(d - b, a - c);
    offer(b - d, c - a);
    // Touched in its middle: the legs are twice its coordinates.
    offer(b, a);
  });
  return { corner: [x0 * su, y0 * sv], legs };
}

function range(points: ArrayLike<number>, axis: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = axis; i < points.length; i += 3)
    [low, high] = [Math.min(low, points[i]!), Math.max(high, points[i]!)];
  return [low, high];
}

/** None thinner than a shape may be. */
const thick = (low: number, high: number): [number, number] => {
  const missing = Math.max(0, MIN_THICKNESS_METRES - (high - low)) / 2;
  return [low - missing, high + missing];
};
