import { convexHull, planeOf } from '../hull/index.js';
import { cross, dot, normalized, quatFromAxes, type Vec3 } from '../math/index.js';
import { type BoxShape, shapeVolume, thickened } from '../shape/index.js';
import { axisAlignedBox } from './axis-aligned-box.js';

export interface MinVolumeBoxOptions {
  /** a turned box must be smaller than the axis-aligned one by this share to be taken. Default 0.01 */
  worthTurning?: number;
}

/**
 * The smallest box with a face on a face of the points' hull; the axis-aligned box when turning gains
 * little or the points are flat. Shape of `points`: [3n], n > 0.
 *
 * For each hull face the best turn about its normal is found by rotating calipers over the projected
 * outline (Toussaint 1983). The true minimum may touch with edges only (O'Rourke 1985); with a face on
 * a face it is exact wherever the art has a flat side.
 */
export function minVolumeBox(
  points: ArrayLike<number>,
  { worthTurning = 0.01 }: MinVolumeBoxOptions = {},
): BoxShape {
  const upright = axisAlignedBox(points);
  const result = convexHull(points);
  if (result.span !== 'solid') return upright;
  const { hull } = result;
  let best = upright;
  let bestVolume = shapeVolume(upright) * (1 - worthTurning);
  const tried: Vec3[] = [];
  for (const face of hull.faces) {
    const [nx, ny, nz] = planeOf(hull.points, face);
    const normal: Vec3 = [nx, ny, nz];
    if (tried.some((other) => Math.abs(dot(other, normal)) > 1 - 1e-12)) continue;
    tried.push(normal);
    const box = boxAlong(normal, hull.points);
    const volume = shapeVolume(box);
    if (volume < bestVolume) {
      best = box;
      bestVolume = volume;
    }
  }
  return best;
}

/** The smallest box with two faces across `normal`. */
function boxAlong(normal: Vec3, points: Float64Array): BoxShape {
  const aside: Vec3 = Math.abs(normal[0]) < 0.6 ? [1, 0, 0] : [0, 1, 0];
  const u = normalized(cross(normal, aside));
  const v = cross(normal, u);
  const n = points.length / 3;
  const flat: [number, number][] = [];
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < n; i++) {
    const p: Vec3 = [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
    flat.push([dot(p, u), dot(p, v)]);
    const h = dot(p, normal);
    low = Math.min(low, h);
    high = Math.max(high, h);
  }
  const rectangle = smallestRectangle(outline2d(flat));
  const [c, s] = rectangle.along;
  const x: Vec3 = [u[0] * c + v[0] * s, u[1] * c + v[1] * s, u[2] * c + v[2] * s];
  const y: Vec3 = [v[0] * c - u[0] * s, v[1] * c - u[1] * s, v[2] * c - u[2] * s];
  const [mx, my, mz] = [rectangle.middle[0], rectangle.middle[1], (low + high) / 2];
  return {
    kind: 'box',
    center: [0, 1, 2].map((i) => x[i]! * mx + y[i]! * my + normal[i]! * mz) as Vec3,
    halfExtents: thickened([rectangle.half[0], rectangle.half[1], (high - low) / 2]),
    rotation: quatFromAxes(x, y, normal),
  };
}

/** Convex outline of points in the plane, counter-clockwise (Andrew's monotone chain, 1979). */
function outline2d(points: [number, number][]): [number, number][] {
  const sorted = [...points].sort((p, q) => p[0] - q[0] || p[1] - q[1]);
  const half = (ordered: [number, number][]) => {
    const chain: [number, number][] = [];
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

const turn = (o: [number, number], a: [number, number], b: [number, number]) =>
  (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

interface Rectangle {
  /** direction of its first side */
  along: [number, number];
  /** centre, measured along its own sides */
  middle: [number, number];
  half: [number, number];
}

/** The rectangle of least area round a convex outline: one of its sides lies on one of the outline's. */
function smallestRectangle(outline: readonly [number, number][]): Rectangle {
  let best: Rectangle = { along: [1, 0], middle: [0, 0], half: [Infinity, Infinity] };
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    const b = outline[(i + 1) % outline.length]!;
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (l === 0) continue;
    const c = (b[0] - a[0]) / l;
    const s = (b[1] - a[1]) / l;
    let x0 = Infinity,
      x1 = -Infinity,
      y0 = Infinity,
      y1 = -Infinity;
    for (const [px, py] of outline) {
      const x = px * c + py * s;
      const y = py * c - px * s;
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x);
      y0 = Math.min(y0, y);
      y1 = Math.max(y1, y);
    }
    if ((x1 - x0) * (y1 - y0) < 4 * best.half[0] * best.half[1]) {
      best = { along: [c, s], middle: [(x0 + x1) / 2, (y0 + y1) / 2], half: [(x1 - x0) / 2, (y1 - y0) / 2] };
    }
  }
  return best;
}
