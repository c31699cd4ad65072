import { dot, rotate, subtract, type Vec3 } from '../math/index.js';
import { type Clearance, clearanceAxes, isHatch } from '../piece/index.js';
import { type Shape, shapeTriangles } from '../shape/index.js';
import type { Agent } from './agents.js';

/** What is left of an opening between shapes, for one agent. Lengths in metres. */
export interface FreePassage {
  passes: boolean;
  /** the widest way that is free over the height of the agent, and how high it is free there */
  width: number;
  height: number;
  /** what the agent lacks of each; 0 where there is enough */
  missingWidth: number;
  missingHeight: number;
  /** number of the shape that is in the way first; null when it is the opening itself */
  shape: number | null;
}

/** Sides of a round, finely: it is no more than a thousandth narrower than it is. */
const ROUND_SEGMENTS = 96;
/** Places across a way that are tried for the height. */
const PLACES = 17;
/** Lengths that differ by less are the same, metres. */
const SAME_METRES = 1e-4;

/** A convex part of a shape as it is seen through an opening. */
interface Piece {
  shape: number;
  /** corners: across from the opening's middle, up from its sill, along; [3n] */
  points: Float64Array;
}

/**
 * Whether an agent gets straight through an opening past shapes, and what it lacks. Shapes are clipped to the depth of
 * the opening and to the height of the agent, and what they cover across the way is taken off it: exact for convex
 * shapes and surfaces.
 *
 * @param shapes colliders by the number of their shape; a shape may be several
 */
export function freePassage(
  shapes: readonly (readonly Shape[])[],
  clearance: Clearance,
  agent: Pick<Agent, 'radius' | 'height' | 'step'>,
): FreePassage {
  const axes = clearanceAxes(clearance);
  const half = clearance.halfExtents;
  const hatch = isHatch(clearance);
  const need = 2 * agent.radius;
  const needUp = hatch ? need : agent.height;
  const opening = { wide: half[axes.width], up: 2 * half[axes.height] };
  const pieces = piecesIn(shapes, clearance);
  const low = hatch ? 0 : Math.min(agent.step, opening.up / 2);
  const across = (from: number, to: number) =>
    widest(covered(pieces, 0, 1, from, to), -opening.wide, opening.wide);
  const upAt = (middle: number, reach: number) => {
    const blocked = covered(pieces, 1, 0, middle - reach, middle + reach);
    return hatch ? widest(blocked, 0, opening.up) : lowest(blocked, low, opening.up);
  };
  const foot = hatch ? { from: opening.up / 2 - agent.radius, to: opening.up / 2 + agent.radius } : null;
  const below = across(foot?.from ?? low, foot?.to ?? Math.max(low + SAME_METRES, agent.height / 2));
  // In a way that is too narrow, as wide as that is: what stands beside it is not above it.
  const reach = Math.min(agent.radius, below.size / 2);
  const places = placesIn(below, agent.radius).map((middle) => upAt(middle, reach));
  const best = places.reduce((a, b) => (b.size > a.size + SAME_METRES ? b : a));
  const found = { width: below.size, height: best.size };
  const lacks = {
    missingWidth: lack(need, found.width),
    missingHeight: lack(needUp, found.height),
  };
  // What narrows it higher up only is told as width, where that is what it lacks least of.
  const whole = across(low, agent.height);
  const narrowed = !hatch && lacks.missingHeight > 0 && lack(need, whole.size) < lacks.missingHeight;
  const said = narrowed
    ? {
        width: whole.size,
        height: Math.min(opening.up, agent.height),
        missingWidth: lack(need, whole.size),
        missingHeight: lack(agent.height, opening.up),
      }
    : { ...found, ...lacks };
  const passes = said.missingWidth === 0 && said.missingHeight === 0;
  const inTheWay = said.missingWidth > 0 ? (narrowed ? whole : below).by : best.by;
  return { ...said, passes, shape: passes ? null : inTheWay };
}

const lack = (need: number, there: number): number => (need - there > SAME_METRES ? need - there : 0);

/** Shapes in the opening's axes: across from its middle, up from its sill, and along; clipped to its depth. */
function piecesIn(shapes: readonly (readonly Shape[])[], clearance: Clearance): Piece[] {
  const axes = clearanceAxes(clearance);
  const axis = (k: 0 | 1 | 2): Vec3 =>
    rotate(clearance.rotation, [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0]);
  const across = axis(axes.width);
  const up = axis(axes.height);
  const upwards = up[1] < 0 ? -1 : 1;
  const along = axis(axes.through);
  const depth = clearance.halfExtents[axes.through];
  const sill = clearance.halfExtents[axes.height];
  const pieces: Piece[] = [];
  shapes.forEach((parts, shape) => {
    for (const part of parts) {
      const { points, indices } = shapeTriangles(part, { segments: ROUND_SEGMENTS });
      const triangles: Float64Array[] = [];
      for (let f = 0; f < indices.length; f += 3) {
        const corners = [0, 1, 2].map((k) => {
          const v = indices[f + k]! * 3;
          const at = subtract([points[v]!, points[v + 1]!, points[v + 2]!], clearance.center);
          return [dot(at, across), upwards * dot(at, up) + sill, dot(at, along)];
        });
        const clipped = clip(clip(corners, 2, -depth, 1), 2, depth, -1);
        if (clipped.length) triangles.push(Float64Array.from(clipped.flat()));
      }
      // What is convex covers all between its triangles; a surface covers no more than they do.
      if (part.kind === 'surface') pieces.push(...triangles.map((points) => ({ shape, points })));
      else if (triangles.length) pieces.push({ shape, points: joined(triangles) });
    }
  });
  return pieces;
}

function joined(parts: readonly Float64Array[]): Float64Array {
  const all = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

/** A polygon's part on one side of a plane of constant coordinate. (Sutherland and Hodgman, 1974.) */
function clip(corners: readonly number[][], axis: number, at: number, side: 1 | -1): number[][] {
  const kept: number[][] = [];
  corners.forEach((corner, i) => {
    const before = corners[(i + corners.length - 1) % corners.length]!;
    const here = (corner[axis]! - at) * side;
    const there = (before[axis]! - at) * side;
    if (here >= 0 !== there >= 0) {
      const t = there / (there - here);
      kept.push(before.map((v, k) => v + (corner[k]! - v) * t));
    }
    if (here >= 0) kept.push(corner);
  });
  return kept;
}

interface Covered {
  from: number;
  to: number;
  shape: number;
}

/** What pieces cover along one axis, of those parts that lie within a band along the other; sorted. */
function covered(pieces: readonly Piece[], along: 0 | 1, band: 0 | 1, low: number, high: number): Covered[] {
  const all: Covered[] = [];
  for (const { shape, points } of pieces) {
    // The hull of a convex piece within a band: its corners in it, and where its edges cross the band's sides.
    let from = Infinity;
    let to = -Infinity;
    const reach = (v: number) => {
      if (v < from) from = v;
      if (v > to) to = v;
    };
    const count = points.length / 3;
    let least = Infinity;
    let most = -Infinity;
    for (let i = 0; i < count; i++) {
      const b = points[i * 3 + band]!;
      if (b < least) least = b;
      if (b > most) most = b;
      if (b >= low && b <= high) reach(points[i * 3 + along]!);
    }
    if (most <= low + SAME_METRES || least >= high - SAME_METRES) continue;
    for (const side of [low, high]) crossings(points, along, band, side, reach);
    if (to > from) all.push({ from, to, shape });
  }
  return all.sort((a, b) => a.from - b.from || a.to - b.to || a.shape - b.shape);
}

/** Extremes of a convex point set's section at `band = side`: reached on segments between points on both sides. */
function crossings(
  points: Float64Array,
  along: 0 | 1,
  band: 0 | 1,
  side: number,
  reach: (v: number) => void,
): void {
  const below = outline(points, along, band);
  for (let i = 0; i < below.length; i++) {
    const [a0, b0] = below[i]!;
    const [a1, b1] = below[(i + 1) % below.length]!;
    if (b0 < side !== b1 < side) reach(a0 + ((a1 - a0) * (side - b0)) / (b1 - b0));
  }
}

/** Convex outline of points in the plane. (Andrew's monotone chain, 1979.) */
function outline(points: Float64Array, along: 0 | 1, band: 0 | 1): [number, number][] {
  const all: [number, number][] = [];
  for (let i = 0; i < points.length; i += 3) all.push([points[i + along]!, points[i + band]!]);
  all.sort((p, q) => p[0] - q[0] || p[1] - q[1]);
  const half = (ordered: readonly [number, number][]) => {
    const chain: [number, number][] = [];
    for (const p of ordered) {
      while (chain.length > 1) {
        const [a, b] = [chain.at(-2)!, chain.at(-1)!];
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
        chain.pop();
      }
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(all), ...half([...all].reverse())];
}

interface Gap {
  from: number;
  to: number;
  size: number;
  /** shape beside it; null for the opening's own side */
  by: number | null;
}

/** The widest gap between what is covered, within limits; the first of equals. */
function widest(blocked: readonly Covered[], low: number, high: number): Gap {
  let best: Gap = { from: low, to: low, size: 0, by: blocked[0]?.shape ?? null };
  let at = low;
  let last: number | null = null;
  const offer = (to: number, next: number | null) => {
    if (to - at > best.size + SAME_METRES) best = { from: at, to, size: to - at, by: next ?? last };
  };
  for (const { from, to, shape } of blocked) {
    if (from > at) offer(Math.min(from, high), from < high ? shape : null);
    if (to > at) {
      at = to;
      last = shape;
    }
    if (at >= high) break;
  }
  if (at < high) offer(high, null);
  return best;
}

/** From the sill up to the first that covers something above a step. */
function lowest(blocked: readonly Covered[], above: number, high: number): Gap {
  let best: Gap = { from: 0, to: high, size: high, by: null };
  for (const { from, to, shape } of blocked) {
    if (to <= above + SAME_METRES) continue;
    const size = Math.max(from, 0);
    if (size < best.size) best = { from: 0, to: size, size, by: shape };
  }
  return best;
}

function placesIn({ from, to }: Gap, radius: number): number[] {
  const middle = (from + to) / 2;
  const play = Math.max(0, (to - from) / 2 - radius);
  return Array.from({ length: PLACES }, (_, i) => {
    // From the middle outwards: the first of equals is nearest to it.
    const k = (i % 2 ? 1 : -1) * Math.ceil(i / 2);
    return middle + (play * k) / ((PLACES - 1) / 2);
  });
}
