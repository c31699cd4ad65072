import { type ConvexPolyhedron, clipConvex, facePlanes, hullVolume, verticesCentre } from '../hull/index.js';
import type { Vec3 } from '../math/index.js';
import { type Shape, shapePolygons } from '../shape/index.js';

/** Sides of round shapes in a lens that is only drawn. */
const LENS_SEGMENTS = 32;

/** A convex body ready to be tested against others: its polyhedron and its face planes. */
export interface ConvexBody extends ConvexPolyhedron {
  /** [4f] */
  planes: Float64Array;
  min: number[];
  max: number[];
}

export function convexBody(points: ArrayLike<number>, faces: number[][]): ConvexBody {
  const planes = facePlanes(points, faces);
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i++) {
    min[i % 3] = Math.min(min[i % 3]!, points[i]!);
    max[i % 3] = Math.max(max[i % 3]!, points[i]!);
  }
  return { points: Array.from(points), faces, planes, min, max };
}

/** A convex body that holds a shape: flat-sided kinds as they are, round ones with their sides outside the curve. */
export function bodyAround(shape: Shape, segments = 32): ConvexBody {
  const flat = Math.cos(Math.PI / segments);
  const { points, faces } = shapePolygons(grown(shape, flat), { segments });
  return convexBody(points, faces);
}

/** A shape as a convex body: round ones with `segments` sides whose corners lie on the curve. */
export function bodyOf(shape: Shape, segments = 64): ConvexBody {
  const { points, faces } = shapePolygons(shape, { segments });
  return convexBody(points, faces);
}

/** Chords of a circle come nearer to its middle by `flat`; of a ball twice. */
function grown(shape: Shape, flat: number): Shape {
  switch (shape.kind) {
    case 'cylinder':
      return { ...shape, bottomRadius: shape.bottomRadius / flat, topRadius: shape.topRadius / flat };
    case 'sphere':
    case 'capsule':
      return { ...shape, radius: shape.radius / flat ** 2 };
    default:
      return shape;
  }
}

/**
 * Whether two convex bodies go into each other by more than `depth` metres: the least width of what they share, over
 * the directions of both bodies' faces. Less than `eps` is touching.
 */
export function crosses(a: ConvexBody, b: ConvexBody, depth: number, eps: number): boolean {
  for (let k = 0; k < 3; k++) if (a.min[k]! >= b.max[k]! - eps || b.min[k]! >= a.max[k]! - eps) return false;
  const least = Math.max(depth, eps * 4);
  // What they share is no wider than one reaches behind a face of the other.
  if (reach(a, b, least) <= least || reach(b, a, least) <= least) return false;
  const shared = commonOf(a, b, eps);
  return shared !== null && leastWidth(shared.points, a, b, least) > least;
}

/** What two convex bodies share. */
export interface Shared {
  /** metres: the least width of it, over the directions of both bodies' faces: how far one has to go to be out */
  depth: number;
  /** cubic metres */
  volume: number;
  /** the middle of its corners */
  at: Vec3;
}

/** What two convex bodies share; null when they share nothing thicker than `eps`. */
export function sharedBy(a: ConvexBody, b: ConvexBody, eps: number): Shared | null {
  for (let k = 0; k < 3; k++) if (a.min[k]! >= b.max[k]! - eps || b.min[k]! >= a.max[k]! - eps) return null;
  const shared = commonOf(a, b, eps / 4);
  if (!shared) return null;
  const points = Float64Array.from(shared.points);
  const depth = leastWidth(points, a, b, eps);
  if (depth <= eps) return null;
  return { depth, volume: hullVolume({ points, faces: shared.faces }), at: verticesCentre(points) };
}

/** What two shapes share, as the lens between them; null where they only touch within `eps` metres, or are no solids. */
export function lensBetween(a: Shape, b: Shape, eps: number): ConvexPolyhedron | null {
  if (a.kind === 'surface' || b.kind === 'surface') return null;
  const [one, other] = [bodyOf(a, LENS_SEGMENTS), bodyOf(b, LENS_SEGMENTS)];
  return sharedBy(one, other, eps) && commonOf(one, other, eps / 4);
}

function commonOf(a: ConvexBody, b: ConvexBody, eps: number): ConvexPolyhedron | null {
  let shared: ConvexPolyhedron | null = a.planes.length <= b.planes.length ? b : a;
  const { planes } = shared === b ? a : b;
  for (let i = 0; i < planes.length && shared; i += 4)
    shared = clipConvex(shared, planes[i]!, planes[i + 1]!, planes[i + 2]!, planes[i + 3]!, eps);
  return shared;
}

/** The least width of points over the directions of both bodies' faces; looked for down to `least`. */
function leastWidth(points: ArrayLike<number>, a: ConvexBody, b: ConvexBody, least: number): number {
  let width = Infinity;
  for (const side of [a.planes, b.planes])
    for (let i = 0; i < side.length && width > least; i += 4) {
      let low = Infinity;
      let high = -Infinity;
      for (let v = 0; v < points.length; v += 3) {
        const at = side[i]! * points[v]! + side[i + 1]! * points[v + 1]! + side[i + 2]! * points[v + 2]!;
        if (at < low) low = at;
        if (at > high) high = at;
      }
      width = Math.min(width, high - low);
    }
  return width;
}

/** How far a body reaches behind the face of another that it reaches behind least; looked for down to `least`. */
function reach({ points }: ConvexBody, { planes }: ConvexBody, least: number): number {
  let depth = Infinity;
  for (let i = 0; i < planes.length && depth > least; i += 4) {
    const [nx, ny, nz] = [planes[i]!, planes[i + 1]!, planes[i + 2]!];
    let low = Infinity;
    for (let v = 0; v < points.length; v += 3) {
      const at = nx * points[v]! + ny * points[v + 1]! + nz * points[v + 2]!;
      if (at < low) low = at;
    }
    depth = Math.min(depth, planes[i + 3]! - low);
  }
  return depth;
}
