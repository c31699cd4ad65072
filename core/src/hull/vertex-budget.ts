import { multiplyQuats, quatAbout, rotate, sixfoldVolume, type Vec3 } from '../math/index.js';
import { type ConvexHull, convexHull, farthestOutside, hullVolume, verticesCentre } from './convex-hull.js';
import { halfSpaceCorners } from './half-spaces.js';
import { planeOf } from './plane.js';
import { ProgressiveHull } from './progressive-hull.js';
import { tightenOutside } from './tighten-outside.js';

/**
 * `outside` contains the hull and grows as little as possible; `inside` lies within it; `between` keeps its
 * volume and lies a little on either side.
 */
export type BudgetSide = 'outside' | 'inside' | 'between';

/** Above this many times the budget an outside hull is first brought near by planes, then reduced edge by edge. */
const PLANES_FIRST_FACTOR = 3;
/** An outside hull larger by this share is as good as can be … */
const CLOSE = 0.01;
/** … and one larger by this is nothing round. */
const ROUND = 0.06;
/** Vertices beyond the budget from which those to keep inside are chosen. */
const SPARE_VERTICES = 24;
/** Face normals of a regular tetrahedron. */
const REGULAR = [
  [1, 1, 1],
  [1, -1, -1],
  [-1, 1, -1],
  [-1, -1, 1],
].map((n) => n.map((v) => v / Math.sqrt(3)) as Vec3);

/**
 * The hull with at most `maxVertices` vertices (4 or more): the same object when it has no more, else a new
 * one that is convex and closed.
 *
 * @param thorough whether the corners of one outside are moved until it takes the least volume, for some milliseconds
 */
export function withVertexBudget(
  hull: ConvexHull,
  maxVertices: number,
  side: BudgetSide = 'outside',
  thorough = true,
): ConvexHull {
  if (hull.points.length / 3 <= maxVertices) return hull;
  if (side === 'outside') return outside(hull, maxVertices, thorough);
  const inner = inside(hull, maxVertices);
  if (side === 'inside') return inner;
  const grow = Math.cbrt(hullVolume(hull) / hullVolume(inner));
  return solid(grownAbout(inner.points, verticesCentre(inner.points), grow));
}

function outside(hull: ConvexHull, maxVertices: number, thorough: boolean): ConvexHull {
  const many = Math.max(60, PLANES_FIRST_FACTOR * maxVertices);
  const near = hull.points.length / 3 > many ? planesAround(hull, many / 4) : hull;
  const reduced = new ProgressiveHull(near);
  const box = boundingBox(hull.points);
  // Few vertices: a box is 8 and a tetrahedron 4, and edge by edge is not always the best way there.
  const candidates: ConvexHull[] = reduced.reduce(maxVertices) ? [solid(reduced.corners())] : [];
  if (maxVertices >= 8) candidates.push(solid(box));
  if (maxVertices < 8 || !candidates.length) candidates.push(aroundSimplex(hull));
  const best = leastOf(candidates);
  const full = hullVolume(hull);
  if (!thorough || hullVolume(best) < full * (1 + CLOSE)) return containing(best, hull.points);
  const tight = tightenOutside(best, hull.points);
  if (hullVolume(tight) < full * (1 + ROUND)) return containing(tight, hull.points);
  // What is round has its corners all about, as the best hull inside it has.
  const round = tightenOutside(containing(inside(hull, maxVertices), hull.points), hull.points);
  return containing(leastOf([tight, round]), hull.points);
}

const leastOf = (hulls: readonly ConvexHull[]): ConvexHull =>
  hulls.reduce((a, b) => (hullVolume(b) < hullVolume(a) ? b : a));

/** Some planes of the hull, pushed out to touch it: an outer hull with few faces. */
function planesAround(hull: ConvexHull, planeCount: number): ConvexHull {
  const inner = solid(convexHull(hull.points, { maxVertices: planeCount }));
  const planes: number[] = [];
  for (const face of inner.faces) {
    const [x, y, z] = planeOf(inner.points, face);
    planes.push(x, y, z, support(hull.points, x, y, z));
  }
  const corners = halfSpaceCorners(planes, verticesCentre(inner.points));
  const result = convexHull(corners);
  return result.span === 'solid' ? result.hull : hull;
}

/** The smallest tetrahedron of some: along the faces of one inside, and regular ones turned by steps. */
function aroundSimplex(hull: ConvexHull): ConvexHull {
  const inner = solid(convexHull(hull.points, { maxVertices: 4 }));
  const middle = verticesCentre(inner.points);
  const tried: Vec3[][] = [inner.faces.map((face) => planeOf(inner.points, face).slice(0, 3) as Vec3)];
  const steps = [0, Math.PI / 6, Math.PI / 3];
  for (const a of steps)
    for (const b of steps)
      for (const c of steps) {
        const turn = multiplyQuats(
          quatAbout([0, 1, 0], a),
          multiplyQuats(quatAbout([1, 0, 0], b), quatAbout([0, 0, 1], c)),
        );
        tried.push(REGULAR.map((n) => rotate(turn, n)));
      }
  let best: ConvexHull | undefined;
  for (const normals of tried) {
    const planes = normals.flatMap((n) => [...n, support(hull.points, ...n)]);
    const found = convexHull(halfSpaceCorners(planes, middle));
    if (found.span !== 'solid') continue;
    if (!best || hullVolume(found.hull) < hullVolume(best)) best = found.hull;
  }
  return containing(best ?? inner, hull.points);
}

/** The hull grown about its middle until the points are inside it. */
function containing(hull: ConvexHull, points: Float64Array): ConvexHull {
  if (farthestOutside(hull, points) <= 0) return hull;
  const middle = verticesCentre(hull.points);
  let grow = 1;
  for (const face of hull.faces) {
    const [x, y, z, d] = planeOf(hull.points, face);
    const from = x * middle[0] + y * middle[1] + z * middle[2];
    grow = Math.max(grow, (support(points, x, y, z) - from) / (d - from));
  }
  // Growing rounds each corner for itself: what is convex exactly is found anew.
  return solid(grownAbout(hull.points, middle, grow * (1 + 1e-14)));
}

/** The hull of some of the vertices, at most so many. */
function inside(hull: ConvexHull, maxVertices: number): ConvexHull {
  const start = convexHull(hull.points, {
    maxVertices: Math.min(maxVertices * 3, maxVertices + SPARE_VERTICES),
  });
  return withoutCheapest(solid(start), maxVertices, (v) => v);
}

/**
 * The hull within one that is its own image, with at most `maxVertices` vertices, that is its own image, too.
 *
 * @param image packed places on the other side
 */
export const withEvenBudget = (
  hull: ConvexHull,
  maxVertices: number,
  image: (points: Float64Array) => Float64Array,
): ConvexHull =>
  withoutCheapest(hull, maxVertices, (v, { points }) => {
    const [x, y, z] = image(points.subarray(v * 3, v * 3 + 3));
    return nearestVertex(points, x!, y!, z!);
  });

/**
 * Vertices dropped a few at a time, no two of them neighbours, those first whose loss costs least volume: the
 * pyramid from the vertex to the ring of its neighbours.
 *
 * @param partnerOf the vertex that goes along with another, or itself
 */
function withoutCheapest(
  hull: ConvexHull,
  maxVertices: number,
  partnerOf: (vertex: number, of: ConvexHull) => number,
): ConvexHull {
  let current = hull;
  for (let count = current.points.length / 3; count > maxVertices; count = current.points.length / 3) {
    const chords = chordsOf(current);
    const cost = chords.map((own, v) => pyramid(current.points, v, own));
    // A vertex is as dear as its partner, but for rounding.
    const partners = chords.map((_, v) => partnerOf(v, current));
    const price = cost.map((own, v) => Math.min(own, cost[partners[v]!]!));
    const order = cost.map((_, v) => v).sort((v, w) => price[v]! - price[w]! || v - w);
    const gone = new Set<number>();
    const held = new Set<number>();
    const most = Math.max(1, Math.ceil((count - maxVertices) / 3));
    for (const v of order) {
      if (gone.size >= most) break;
      if (held.has(v) || held.has(partners[v]!)) continue;
      for (const each of [v, partners[v]!]) {
        gone.add(each);
        for (const [a, b] of chords[each]!) held.add(a).add(b);
      }
    }
    const left = convexHull(current.points.filter((_, i) => !gone.has((i / 3) | 0)));
    // What is thin in some direction can be left flat; the farthest corners alone never are.
    if (left.span !== 'solid') return solid(convexHull(hull.points, { maxVertices }));
    current = left.hull;
  }
  return current;
}

/** For each vertex the neighbours before and after it in each of its faces: the edges of the ring round it. */
function chordsOf({ points, faces }: ConvexHull): [number, number][][] {
  const chords: [number, number][][] = Array.from({ length: points.length / 3 }, () => []);
  for (const face of faces)
    face.forEach((v, i) =>
      chords[v]!.push([face[(i + face.length - 1) % face.length]!, face[(i + 1) % face.length]!]),
    );
  return chords;
}

function pyramid(p: Float64Array, v: number, ring: readonly [number, number][]): number {
  const middle: Vec3 = [0, 0, 0];
  for (const [a] of ring) for (let k = 0; k < 3; k++) middle[k]! += p[a * 3 + k]! / ring.length;
  let six = 0;
  for (const [a, b] of ring) six += Math.abs(sixfoldVolume(p, v * 3, a * 3, b * 3, ...middle));
  return six / 6;
}

function solid(result: ReturnType<typeof convexHull> | Float64Array): ConvexHull {
  const found = result instanceof Float64Array ? convexHull(result) : result;
  if (found.span !== 'solid') throw new Error('a part of a solid hull is flat');
  return found.hull;
}

function nearestVertex(points: Float64Array, x: number, y: number, z: number): number {
  let [nearest, least] = [0, Infinity];
  for (let v = 0; v < points.length / 3; v++) {
    const off = (points[v * 3]! - x) ** 2 + (points[v * 3 + 1]! - y) ** 2 + (points[v * 3 + 2]! - z) ** 2;
    if (off < least) [nearest, least] = [v, off];
  }
  return nearest;
}

function support(points: ArrayLike<number>, x: number, y: number, z: number): number {
  let most = -Infinity;
  for (let i = 0; i < points.length; i += 3)
    most = Math.max(most, x * points[i]! + y * points[i + 1]! + z * points[i + 2]!);
  return most;
}

function boundingBox(points: Float64Array): Float64Array {
  const low: Vec3 = [0, 0, 0];
  const high: Vec3 = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    high[k] = support(points, +(k === 0), +(k === 1), +(k === 2));
    low[k] = -support(points, -(k === 0), -(k === 1), -(k === 2));
  }
  return Float64Array.from({ length: 24 }, (_, i) => (((i / 3) >> (i % 3)) & 1 ? high[i % 3]! : low[i % 3]!));
}

const grownAbout = (points: Float64Array, middle: Readonly<Vec3>, factor: number): Float64Array =>
  points.map((value, i) => middle[i % 3]! + (value - middle[i % 3]!) * factor);
