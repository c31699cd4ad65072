import { add, axesFrom, quatFromAxes, scaled, type Vec3 } from '../math/index.js';
import { type CapsuleShape, type CylinderShape, MIN_THICKNESS_METRES } from '../shape/index.js';
import { outline2d, smallestCircle, type Vec2 } from './outline.js';

const LEAST = MIN_THICKNESS_METRES / 2;

/** Points as heights along an axis and distances from it; the axis runs through the smallest circle's middle. */
interface AboutAxis {
  x: Vec3;
  y: Vec3;
  z: Vec3;
  middle: Vec2;
  /** [n] */
  heights: Float64Array;
  /** [n] */
  aside: Float64Array;
}

function aboutAxis(points: ArrayLike<number>, axis: Readonly<Vec3>): AboutAxis {
  const [x, y, z] = axesFrom(axis, [1, 0, 0]);
  const n = points.length / 3;
  const heights = new Float64Array(n);
  const flat: Vec2[] = [];
  for (let i = 0; i < n; i++) {
    const [px, py, pz] = [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
    heights[i] = px * y[0] + py * y[1] + pz * y[2];
    flat.push([px * x[0] + py * x[1] + pz * x[2], px * z[0] + py * z[1] + pz * z[2]]);
  }
  const { center } = smallestCircle(flat);
  const aside = Float64Array.from(flat, (p) => Math.hypot(p[0] - center[0], p[1] - center[1]));
  return { x, y, z, middle: center, heights, aside };
}

const placeOn = ({ x, y, z, middle }: AboutAxis, height: number): Vec3 =>
  add(add(scaled(x, middle[0]), scaled(z, middle[1])), scaled(y, height));

/** The smallest straight or tapered cylinder along an axis, round packed points ([3n], n > 0). */
export function cylinderAlong(
  points: ArrayLike<number>,
  axis: Readonly<Vec3>,
  { tapered = false }: { tapered?: boolean } = {},
): CylinderShape {
  const about = aboutAxis(points, axis);
  const low = least(about.heights);
  const high = greatest(about.heights);
  const widest = greatest(about.aside);
  const [bottom, top] = tapered ? taper(about, low, high) : [widest, widest];
  return {
    kind: 'cylinder',
    center: placeOn(about, (low + high) / 2),
    rotation: quatFromAxes(about.x, about.y, about.z),
    halfHeight: Math.max((high - low) / 2, LEAST),
    bottomRadius: Math.max(bottom, LEAST),
    topRadius: Math.max(top, LEAST),
  };
}

/**
 * Radii at both ends so that the cone holds every point and has the least volume. The volume grows with
 * either radius, so the best line over the points (height, distance) lies on an edge of their upper outline,
 * or turns about one of its corners.
 */
function taper({ heights, aside }: AboutAxis, low: number, high: number): [number, number] {
  const widest = greatest(aside);
  const tall = high - low;
  if (!(tall > 2 * LEAST)) return [widest, widest];
  const points: Vec2[] = [];
  heights.forEach((h, i) => points.push([(h - low) / tall, aside[i]!]));
  points.push([0, 0], [1, 0]);
  const outline = outline2d(points);
  let best: [number, number] = [widest, widest];
  const volume = ([r, s]: [number, number]) => r * r + r * s + s * s;
  const offer = (r: number, s: number) => {
    // Lifted until every point is under it: rounding must not leave one out.
    let lift = 0;
    const [low, high] = [Math.max(0, r), Math.max(0, s)];
    for (const [t, d] of outline) lift = Math.max(lift, d - (low + (high - low) * t));
    const tried: [number, number] = [low + lift, high + lift];
    if (volume(tried) < volume(best)) best = tried;
  };
  outline.forEach((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    if (a[0] !== b[0]) {
      const slope = (b[1] - a[1]) / (b[0] - a[0]);
      offer(a[1] - slope * a[0], a[1] + slope * (1 - a[0]));
    }
    // About one corner: r = d - m t, s = d + m (1 - t); the volume is a parabola in m.
    const [t, d] = a;
    const square = t * t - t * (1 - t) + (1 - t) * (1 - t);
    const m = (-d * (1 - t - t) * 3) / 2 / square;
    offer(d - m * t, d + m * (1 - t));
  });
  return best;
}

/** The smallest capsule along an axis, round packed points ([3n], n > 0). */
export function capsuleAlong(points: ArrayLike<number>, axis: Readonly<Vec3>): CapsuleShape {
  const about = aboutAxis(points, axis);
  const radius = Math.max(greatest(about.aside) * (1 + 1e-15), LEAST);
  let top = -Infinity;
  let bottom = Infinity;
  about.heights.forEach((h, i) => {
    const cap = Math.sqrt(Math.max(0, radius * radius - about.aside[i]! * about.aside[i]!));
    top = Math.max(top, h - cap);
    bottom = Math.min(bottom, h + cap);
  });
  return {
    kind: 'capsule',
    center: placeOn(about, (top + bottom) / 2),
    rotation: quatFromAxes(about.x, about.y, about.z),
    halfLength: Math.max(0, (top - bottom) / 2),
    radius,
  };
}

const least = (values: Float64Array): number => values.reduce((a, b) => (b < a ? b : a), Infinity);
const greatest = (values: Float64Array): number => values.reduce((a, b) => (b > a ? b : a), -Infinity);
