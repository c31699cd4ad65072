import { convexHull, hullShape } from '../hull/index.js';
import { exactBox, outline2d } from '../fit/index.js';
import { areaVector, type Vec3 } from '../math/index.js';
import { type Mesh, takeFaces } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';

/** Faces that lean from level by less than this cosine are floor. */
const LEVEL_COSINE = 0.5;
/** Triangles that are joined one by one, at most. */
const MAX_FLOOR_TRIANGLES = 4000;

/**
 * A floor as solid slabs: its upper faces are their tops, and they reach so far down. Neighbouring faces share a slab
 * while it stays convex and flat on top within the tolerance.
 *
 * @param faces of the mesh. Default: all
 * @throws DecomposeError when no face looks up, or there are far too many
 */
export function slabBelow(
  mesh: Mesh,
  {
    faces,
    thicknessMetres,
    toleranceMetres,
  }: { faces?: Iterable<number>; thicknessMetres: number; toleranceMetres: number },
): Shape[] {
  if (!(thicknessMetres > 0)) throw new DecomposeError('A slab needs a thickness above 0.');
  const wanted = faces && new Set(faces);
  const floor = takeFaces(mesh, (face) => (!wanted || wanted.has(face)) && looksUp(mesh, face));
  const count = floor.indices.length / 3;
  if (count === 0)
    throw new DecomposeError('None of these faces looks up; choose the faces that one stands on.');
  if (count > MAX_FLOOR_TRIANGLES)
    throw new DecomposeError(
      `A floor of ${count} triangles is too fine; choose fewer faces, or reduce the art first.`,
    );
  return joinedTops(floor, toleranceMetres).map((triangles) => slabUnder(floor, triangles, thicknessMetres));
}

function looksUp({ positions, indices }: Mesh, face: number): boolean {
  const n = areaVector(
    positions,
    indices[face * 3]! * 3,
    indices[face * 3 + 1]! * 3,
    indices[face * 3 + 2]! * 3,
  );
  return n[1] > LEVEL_COSINE * Math.hypot(...n);
}

/** A group of triangles, seen from above: their outline's area must be their own for them to be convex together. */
interface Top {
  triangles: number[];
  area: number;
}

function joinedTops(floor: Mesh, tolerance: number): number[][] {
  const count = floor.indices.length / 3;
  const tops: Top[] = Array.from({ length: count }, (_, f) => ({
    triangles: [f],
    area: areaAbove(floor, [f]),
  }));
  // Greedy, the largest first: a rectangle's two halves join before anything else is asked.
  for (let joined = true; joined;) {
    joined = false;
    tops.sort((a, b) => b.area - a.area || a.triangles[0]! - b.triangles[0]!);
    for (let i = 0; i < tops.length; i++)
      for (let j = i + 1; j < tops.length; j++) {
        const [one, other] = [tops[i]!, tops[j]!];
        const both = [...one.triangles, ...other.triangles];
        if (!share(floor, one.triangles, other.triangles) || !isConvexAndFlat(floor, both, tolerance))
          continue;
        tops[i] = { triangles: both, area: one.area + other.area };
        tops.splice(j--, 1);
        joined = true;
      }
  }
  return tops.map(({ triangles }) => triangles);
}

const placesOf = ({ positions: p, indices }: Mesh, triangles: readonly number[]): number[][] =>
  triangles.flatMap((t) =>
    [0, 1, 2].map((k) => {
      const v = indices[t * 3 + k]! * 3;
      return [p[v]!, p[v + 1]!, p[v + 2]!];
    }),
  );

const keyOf = (place: readonly number[]): string => place.map((v) => Math.round(v * 1e5)).join();

function share(floor: Mesh, a: readonly number[], b: readonly number[]): boolean {
  const corners = new Set(placesOf(floor, a).map(keyOf));
  return (
    new Set(
      placesOf(floor, b)
        .map(keyOf)
        .filter((key) => corners.has(key)),
    ).size > 1
  );
}

function areaAbove(floor: Mesh, triangles: readonly number[]): number {
  const places = placesOf(floor, triangles);
  let area = 0;
  for (let i = 0; i < places.length; i += 3) {
    const [a, b, c] = [places[i]!, places[i + 1]!, places[i + 2]!];
    area += Math.abs((b[0]! - a[0]!) * (c[2]! - a[2]!) - (b[2]! - a[2]!) * (c[0]! - a[0]!)) / 2;
  }
  return area;
}

function isConvexAndFlat(floor: Mesh, triangles: readonly number[], tolerance: number): boolean {
  const places = placesOf(floor, triangles);
  const area = areaAbove(floor, triangles);
  const outline = outlineArea(places);
  if (outline > area * (1 + 1e-6) + tolerance * Math.sqrt(area) * 0.1) return false;
  // The top of a slab is the hull over its corners: it may not lie above the floor between them.
  const prism = convexHull(
    places.flatMap(([x, y, z]) => [x!, y!, z!, x!, y! - 1e3 * Math.sqrt(area || 1), z!]),
  );
  if (prism.span !== 'solid') return true;
  const { points, faces } = prism.hull;
  return triangles.every((_, t) => {
    const [a, b, c] = places.slice(t * 3, t * 3 + 3) as [number[], number[], number[]];
    const [x, y, z] = a.map((v, k) => (v + b[k]! + c[k]!) / 3) as Vec3;
    return topAt(points, faces, x, z) - y <= tolerance;
  });
}

/** The height of a hull's upper side over a place. */
function topAt(
  points: ArrayLike<number>,
  faces: readonly (readonly number[])[],
  x: number,
  z: number,
): number {
  let top = Infinity;
  for (const face of faces) {
    const a = face[0]! * 3;
    const n = areaVector(points, a, face[1]! * 3, face[2]! * 3);
    if (!(n[1] > Math.hypot(...n) * 1e-6)) continue;
    top = Math.min(top, points[a + 1]! - (n[0] * (x - points[a]!) + n[2] * (z - points[a + 2]!)) / n[1]);
  }
  return top;
}

/** The area of the outline of places as they are seen from above. */
function outlineArea(places: readonly number[][]): number {
  const loop = outline2d(places.map(([x, , z]) => [x!, z!]));
  return Math.abs(
    loop.reduce((sum, a, i) => {
      const b = loop[(i + 1) % loop.length]!;
      return sum + (a[0] * b[1] - a[1] * b[0]) / 2;
    }, 0),
  );
}

function slabUnder(floor: Mesh, triangles: readonly number[], thickness: number): Shape {
  const places = placesOf(floor, triangles);
  const points = Float64Array.from(places.flatMap(([x, y, z]) => [x!, y!, z!, x!, y! - thickness, z!]));
  const result = convexHull(points);
  if (result.span !== 'solid')
    throw new DecomposeError('A part of the floor is too narrow for a slab; choose other faces.');
  return (result.hull.points.length === 24 && exactBox(result.hull.points)) || hullShape(result.hull);
}
