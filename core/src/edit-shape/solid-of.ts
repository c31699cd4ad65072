import {
  clipConvex,
  type ConvexPolyhedron,
  convexHull,
  halfSpaceCorners,
  hullShape,
  planeOf,
} from '../hull/index.js';
import { boundsOf, diagonalOf, type Vec3 } from '../math/index.js';
import type { HullShape } from '../shape/index.js';
import { areaAndMiddle } from './facets.js';

/** The middle of points ([3n], n > 0). */
export function middleOf(points: ArrayLike<number>): Vec3 {
  const middle: Vec3 = [0, 0, 0];
  for (let i = 0; i < points.length; i += 3)
    for (let k = 0; k < 3; k++) middle[k]! += (points[i + k]! * 3) / points.length;
  return middle;
}

/** Corners and planes nearer to each other than this share of the size are one: rounding drew them apart. */
const SAME_SHARE = 1e-9;

/** A plane of a solid, and the faces that lie in it. */
export interface SolidPlane {
  /** nx, ny, nz, d with n . x = d */
  plane: [number, number, number, number];
  faces: number[];
}

/** The planes of a convex solid (`points` [3n]), each once; faces that lie in one share it. */
export function planesOf(points: ArrayLike<number>, faces: readonly (readonly number[])[]): SolidPlane[] {
  const size = diagonalOf(boundsOf(points));
  const measured = faces
    .map((face, f) => ({ f, plane: planeOf(points, face), area: areaAndMiddle(points, face).area }))
    .sort((a, b) => b.area - a.area || a.f - b.f);
  const planes: SolidPlane[] = [];
  for (const { f, plane, area } of measured) {
    const same = planes.find(({ plane: other }) => isSame(plane, other, size));
    if (same) same.faces.push(f);
    // A sliver has no direction of its own that could be trusted, and its neighbours bound the solid there.
    else if (area > size * size * SAME_SHARE) planes.push({ plane, faces: [f] });
  }
  return planes;
}

const isSame = (a: readonly number[], b: readonly number[], size: number): boolean =>
  Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!) < 1e-7 && Math.abs(a[3]! - b[3]!) < size * 1e-7;

/**
 * What half-spaces have in common, as a hull; null when that is no solid.
 *
 * @param planes [4k], unit normals and offsets
 * @param inside a point strictly inside all of them
 */
export function solidOf(planes: ArrayLike<number>, inside: Readonly<Vec3>): HullShape | null {
  return hullOf(distinct(halfSpaceCorners(planes, inside)));
}

/** A solid without what lies beyond planes (nx, ny, nz, d each); null when nothing is left. */
export function clippedBy(shape: HullShape, planes: readonly (readonly number[])[]): HullShape | null {
  const eps = diagonalOf(boundsOf(shape.points)) * 1e-12;
  let solid: ConvexPolyhedron | null = { points: shape.points, faces: shape.faces.map((face) => [...face]) };
  for (const [x, y, z, d] of planes) solid = solid && clipConvex(solid, x!, y!, z!, d!, eps);
  return solid && hullOf(distinct(Float64Array.from(solid.points)));
}

/** The points without those that are hardly beside another. */
function distinct(points: Float64Array): Float64Array {
  if (points.length === 0) return points;
  const near = diagonalOf(boundsOf(points)) * SAME_SHARE;
  const kept: number[] = [];
  for (let i = 0; i < points.length; i += 3) {
    let there = false;
    for (let k = 0; k < kept.length && !there; k += 3)
      there =
        Math.hypot(points[i]! - kept[k]!, points[i + 1]! - kept[k + 1]!, points[i + 2]! - kept[k + 2]!) <=
        near;
    if (!there) kept.push(points[i]!, points[i + 1]!, points[i + 2]!);
  }
  return Float64Array.from(kept);
}

/** The hull of points ([3n]) as a shape, its flat sides whole; null when they are flat together. */
export function hullOf(points: ArrayLike<number>): HullShape | null {
  const result = convexHull(points);
  if (result.span !== 'solid') return null;
  return hullShape({ points: result.hull.points, faces: wholeSides(result.hull.points, result.hull.faces) });
}

/** Faces that rounding alone drew apart become one: a side is seen, inked and dragged as a whole. */
function wholeSides(points: ArrayLike<number>, faces: readonly number[][]): number[][] {
  const sides = planesOf(points, faces).map(({ faces: lying }) => lying);
  const found = new Set(sides.flat());
  const slivers = faces.flatMap((_, f) => (found.has(f) ? [] : [[f]]));
  return [...sides, ...slivers].flatMap((lying) => {
    const loop = lying.length > 1 ? outlineOf(lying.map((f) => faces[f]!)) : null;
    return loop ? [loop] : lying.map((f) => faces[f]!);
  });
}

/** The loop round neighbouring faces; null when they are not in one piece. */
function outlineOf(faces: readonly (readonly number[])[]): number[] | null {
  const next = new Map<number, number>();
  const sides = new Set(faces.flatMap((face) => face.map((v, i) => `${v},${face[(i + 1) % face.length]!}`)));
  for (const side of sides) {
    const [from, to] = side.split(',').map(Number) as [number, number];
    if (!sides.has(`${to},${from}`)) next.set(from, to);
  }
  const first = next.keys().next().value;
  const loop: number[] = [];
  for (let v = first; v !== undefined && loop.length < next.size; v = next.get(v)) {
    loop.push(v);
    if (next.get(v) === first) return loop.length === next.size ? loop : null;
  }
  return null;
}
