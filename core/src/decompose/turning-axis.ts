import { cross, type Vec3 } from '../math/index.js';
import { buildBvh, closestDistance } from '../solid/index.js';
import type { Fragment } from './fragment.js';
import { principalAxes } from './principal-axes.js';

/** Turned about its axis a body lies on itself to within this share of its radius: nine sides do, eight do not. */
const ROUND_SHARE = 0.065;
/** Turned by these angles, radians, no polygon of few sides lies on itself. */
const TRIED_TURNS = [0.83, 1.91, 2.74];
const MAX_ASKED = 240;
/** The axis a body is turned about, and two directions across it. */
export interface TurningAxis {
  middle: Vec3;
  way: Vec3;
  /** two directions across it; the first points at a vertex, so that wedges begin where facets do */
  u: Vec3;
  v: Vec3;
  /** facets round the axis; 0 when they are uneven */
  sides: number;
  /** whether `u` points at the middle of a facet instead: there a plane that art is mirrored over goes through */
  inFacet?: boolean;
}

/** The axis about which a fragment is round; null when there is none. */
export function turningAxis(fragment: Fragment): TurningAxis | null {
  const { points: p, triangles, faces } = fragment;
  const { middle, axes } = principalAxes(fragment);
  const tree = buildBvh({ positions: p, indices: Uint32Array.from(triangles.subarray(0, faces * 3)) });
  const step = Math.max(1, Math.ceil(p.length / 3 / MAX_ASKED));
  for (const way of [axes[2]!, axes[0]!, axes[1]!]) {
    const [u, v] = across(
      way,
      axes.find((axis) => axis !== way)!,
    );
    let radius = 0;
    let corner = 0;
    for (let i = 0; i < p.length; i += 3) {
      const off = Math.hypot(placeAlong(p, i, middle, u), placeAlong(p, i, middle, v));
      if (off <= radius * (1 + 1e-6)) continue;
      radius = off;
      corner = i;
    }
    const allowed = radius * ROUND_SHARE;
    let round = true;
    for (let i = 0; i < p.length && round; i += step * 3) {
      const [h, a, b] = [
        placeAlong(p, i, middle, way),
        placeAlong(p, i, middle, u),
        placeAlong(p, i, middle, v),
      ];
      for (const turn of TRIED_TURNS) {
        const [c, s] = [Math.cos(turn), Math.sin(turn)];
        const [x, y] = [a * c - b * s, a * s + b * c];
        const at = [0, 1, 2].map((k) => middle[k]! + way[k]! * h + u[k]! * x + v[k]! * y) as Vec3;
        if (closestDistance(tree, at[0], at[1], at[2], allowed, -1) < allowed) continue;
        round = false;
        break;
      }
    }
    if (!round || !(radius > 0)) continue;
    const [a, b] = [placeAlong(p, corner, middle, u), placeAlong(p, corner, middle, v)];
    const first = [0, 1, 2].map((k) => (u[k]! * a + v[k]! * b) / Math.hypot(a, b)) as Vec3;
    const sides = evenSides(p, middle, way, placeAlong(p, corner, middle, way), radius);
    return { middle, way, u: first, v: cross(way, first), sides };
  }
  return null;
}

/** How many vertices lie on the circle through the outermost one, when they do so at equal steps; else 0. */
function evenSides(p: Float64Array, middle: Vec3, way: Vec3, height: number, radius: number): number {
  const near = radius * 1e-4;
  const places: Vec3[] = [];
  for (let i = 0; i < p.length; i += 3) {
    const h = placeAlong(p, i, middle, way);
    if (Math.abs(h - height) > near) continue;
    const out = [0, 1, 2].map((k) => p[i + k]! - middle[k]! - way[k]! * h) as Vec3;
    if (Math.abs(Math.hypot(...out) - radius) <= near) places.push(out);
  }
  const side = 2 * radius * Math.sin(Math.PI / places.length);
  const even = places.every((a) => {
    const steps = places.map((b) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).sort((s, t) => s - t);
    return steps.length > 2 && Math.abs(steps[1]! - side) < near * 4 && Math.abs(steps[2]! - side) < near * 4;
  });
  return even ? places.length : 0;
}

/** Two directions across a third, the first as near to `like` as can be. */
function across(way: Vec3, like: Vec3): [Vec3, Vec3] {
  const v = cross(way, like);
  return [cross(v, way), v];
}

/** Metres from a place along a direction, of the vertex that begins at `i`. */
export const placeAlong = (p: Float64Array, i: number, from: Vec3, along: Vec3): number =>
  (p[i]! - from[0]) * along[0] + (p[i + 1]! - from[1]) * along[1] + (p[i + 2]! - from[2]) * along[2];
