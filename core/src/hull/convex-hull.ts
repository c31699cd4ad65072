import { sixfoldVolume, type Vec3 } from '../math/index.js';
import { firstTetrahedron } from './first-tetrahedron.js';
import { HullBuilder } from './hull-builder.js';
import { facePlanes } from './plane.js';
import { polyhedron } from './polyhedron.js';

/** A closed convex polyhedron. */
export interface ConvexHull {
  /** [3n], each a corner of the hull: no vertex lies inside a face or an edge */
  points: Float64Array;
  /** polygons as vertex numbers, counter-clockwise seen from outside; exactly coplanar triangles are one face */
  faces: number[][];
}

/** What the points turned out to span, exactly. Only a solid has a hull. */
export type HullResult = { span: 'solid'; hull: ConvexHull } | { span: 'empty' | 'point' | 'line' | 'plane' };

export interface HullOptions {
  /** stop after so many corners: an inner approximation, the farthest points first. Default: no limit */
  maxVertices?: number;
}

/**
 * The convex hull of packed points (shape [3n], finite, any order, duplicates welcome).
 *
 * Quickhull (Barber, Dobkin and Huhdanpaa 1996) with a global farthest-point order: distances choose
 * which point comes next, exact orientation predicates (Shewchuk 1997) decide what it sees. So the
 * polyhedron is exactly convex and closed at every step, and its corners do not depend on the order
 * of the input.
 */
export function convexHull(points: ArrayLike<number>, { maxVertices }: HullOptions = {}): HullResult {
  const conditioned = withinRange(points);
  const first = maxVertices === undefined ? some(points.length / 3) : undefined;
  const found = firstTetrahedron(first ? gather(conditioned, first) : conditioned);
  const start = found.span !== 'solid' && first ? firstTetrahedron(conditioned) : found;
  if (start.span !== 'solid') return { span: start.span };
  const corners = first && start === found ? start.corners.map((i) => first[i]!) : start.corners;
  const builder = new HullBuilder(conditioned, corners, { maxVertices, first });
  builder.grow();
  const solid = polyhedron(conditioned, builder);
  return { span: 'solid', hull: { points: gather(points, solid.corners), faces: solid.faces } };
}

/**
 * Volume of the convex hull of packed points ([3n]); 0 when they are flat. Less work than the hull itself, with
 * `maxVertices`, farthest first, less still; and least of all when it reaches `enough`: then it ends where that is
 * known, and what is told is no less than that and no more than the volume.
 */
export function volumeOfHullOf(points: ArrayLike<number>, maxVertices?: number, enough = Infinity): number {
  const conditioned = withinRange(points);
  const start = firstTetrahedron(conditioned);
  if (start.span !== 'solid') return 0;
  // Points too small or too large for exact signs were scaled; their ratio brings the volume back.
  const larger = (points.length ? largestOf(points) / largestOf(conditioned) : 1) ** 3;
  const builder = new HullBuilder(conditioned, start.corners, { maxVertices, rough: true });
  builder.grow(enough / larger);
  return builder.volume() * larger;
}

function largestOf(points: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < points.length; i++) most = Math.max(most, Math.abs(points[i]!));
  return most;
}

/** A spread of a few points of many, to begin with; undefined when there are not many. */
function some(n: number): Int32Array | undefined {
  const step = Math.floor(n / 1000);
  return step > 1 ? Int32Array.from({ length: Math.floor(n / step) }, (_, i) => i * step) : undefined;
}

/**
 * The points scaled by a power of two to about 1, with what is 2^200 times smaller than the largest set to
 * zero: the exact predicates are exact only while no product underflows or overflows. Points that need
 * neither are taken as they are.
 */
function withinRange(points: ArrayLike<number>): Float64Array {
  let reach = 0;
  let least = Infinity;
  for (let i = 0; i < points.length; i++) {
    const size = Math.abs(points[i]!);
    if (size > reach) reach = size;
    if (size < least && size > 0) least = size;
  }
  if (points instanceof Float64Array && reach < 2 ** 100 && least > 2 ** -100) return points;
  const exponent = reach > 0 ? Math.floor(Math.log2(reach)) : 0;
  const half = 2 ** -Math.trunc(exponent / 2);
  const rest = 2 ** -(exponent - Math.trunc(exponent / 2));
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i++) {
    const value = points[i]! * half * rest;
    out[i] = Math.abs(value) < 2 ** -200 ? 0 : value;
  }
  return out;
}

/** Enclosed volume, summed from one of its corners so that a hull far from its origin loses no digits. */
export function hullVolume({ points: p, faces }: ConvexHull): number {
  const [ox, oy, oz] = [p[0]!, p[1]!, p[2]!];
  let six = 0;
  for (const face of faces) {
    const a = face[0]! * 3;
    for (let i = 1; i + 1 < face.length; i++) {
      const b = face[i]! * 3;
      const c = face[i + 1]! * 3;
      six += sixfoldVolume(p, a, b, c, ox, oy, oz);
    }
  }
  return six / 6;
}

/** Mean of packed points: a place inside their hull. */
export function verticesCentre(points: ArrayLike<number>): Vec3 {
  const sum: Vec3 = [0, 0, 0];
  for (let i = 0; i < points.length; i++) sum[i % 3]! += points[i]! / (points.length / 3);
  return sum;
}

/** How far the farthest of `points` lies outside the hull's faces; 0 when all are inside. */
export function farthestOutside(hull: ConvexHull, points: ArrayLike<number>): number {
  const planes = facePlanes(hull.points, hull.faces);
  let farthest = 0;
  for (let f = 0; f < planes.length; f += 4) {
    const [nx, ny, nz, d] = [planes[f]!, planes[f + 1]!, planes[f + 2]!, planes[f + 3]!];
    for (let i = 0; i < points.length; i += 3) {
      farthest = Math.max(farthest, nx * points[i]! + ny * points[i + 1]! + nz * points[i + 2]! - d);
    }
  }
  return farthest;
}

function gather(points: ArrayLike<number>, vertices: Int32Array): Float64Array {
  const out = new Float64Array(vertices.length * 3);
  for (let i = 0; i < out.length; i++) out[i] = points[vertices[(i / 3) | 0]! * 3 + (i % 3)]!;
  return out;
}
