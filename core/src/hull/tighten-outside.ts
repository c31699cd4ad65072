import { add, cross, dot, length, normalized, scaled, subtract, type Vec3 } from '../math/index.js';
import { type ConvexHull, convexHull, hullVolume } from './convex-hull.js';

/** Times that every corner is moved, at most, the first ones half the way; sooner when a round gains less than this share. */
const ROUNDS = 7;
const EASY_ROUNDS = 5;
const WORTH = 1e-3;
/** Steps a corner goes along what holds it. */
const STEPS = 6;
/** Shares of the size: nearer than this a plane holds a corner, and a point lies on an edge. */
const TOUCHING = 1e-9;
const ON_EDGE = 1e-7;

/** A half-space that a corner has to stay in: n . x >= d, unit normal. */
interface Bound {
  n: Vec3;
  d: number;
}

/** The corners round one, in order; beyond the edge from each to the next lies a face whose third corner is in `far`. */
interface Link {
  around: number[];
  far: number[];
}

/**
 * An outer hull with its corners moved inward, each in turn as far as its faces still hold all points and all stays
 * convex, so that it takes the least volume: linear in the corner, as are the half-spaces it has to stay in.
 *
 * @param points what has to stay inside. Shape: [3n]
 */
export function tightenOutside(outer: ConvexHull, points: Float64Array): ConvexHull {
  const corners = Array.from({ length: outer.points.length / 3 }, (_, v): Vec3 => [
    outer.points[v * 3]!,
    outer.points[v * 3 + 1]!,
    outer.points[v * 3 + 2]!,
  ]);
  const links = linksOf(outer.faces, corners.length);
  const size = Math.cbrt(hullVolume(outer)) || 1;
  let volume = hullVolume(outer);
  for (let round = 0; round < ROUNDS; round++) {
    let gained = 0;
    links.forEach((link, v) => {
      if (!link) return;
      const ring = link.around.map((w) => corners[w]!);
      const growth = growthOf(ring);
      const moved = lowered(
        corners[v]!,
        growth,
        boundsOf(corners[v]!, ring, link, corners, points, size),
        size,
      );
      // By and by: a corner that goes all the way at once leaves its neighbours no room.
      const share = round < EASY_ROUNDS ? 0.5 : 1;
      const to = add(corners[v]!, scaled(subtract(moved, corners[v]!), share));
      gained += dot(growth, subtract(corners[v]!, to));
      corners[v] = to;
    });
    volume -= gained;
    if (gained < volume * WORTH) break;
  }
  const found = convexHull(corners.flat());
  return found.span === 'solid' && hullVolume(found.hull) < hullVolume(outer) ? found.hull : outer;
}

/** For each corner the ring round it over triangles of the faces; null when that is none. */
function linksOf(faces: readonly (readonly number[])[], count: number): (Link | null)[] {
  /** for the corner a, the corner after it in each triangle: the third */
  const next = Array.from({ length: count }, () => new Map<number, number>());
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) {
      const [a, b, c] = [face[0]!, face[i]!, face[i + 1]!];
      next[a]!.set(b, c);
      next[b]!.set(c, a);
      next[c]!.set(a, b);
    }
  return next.map((own) => {
    const [start] = own.keys();
    if (start === undefined) return null;
    const around = [start];
    for (let w = own.get(start); w !== start; w = own.get(w)) {
      if (w === undefined || around.length > own.size) return null;
      around.push(w);
    }
    const far = around.map((a, i) => next[around[(i + 1) % around.length]!]!.get(a));
    return far.includes(undefined) ? null : { around, far: far as number[] };
  });
}

/** Cubic metres that the hull grows by for a metre that a corner moves, along each axis. */
function growthOf(ring: readonly Vec3[]): Vec3 {
  let sum: Vec3 = [0, 0, 0];
  const [o] = ring as [Vec3];
  ring.forEach((a, i) => {
    sum = add(sum, cross(subtract(a, o), subtract(ring[(i + 1) % ring.length]!, o)));
  });
  return scaled(sum, 1 / 6);
}

function boundsOf(
  corner: Vec3,
  ring: readonly Vec3[],
  { far }: Link,
  corners: readonly Vec3[],
  points: Float64Array,
  size: number,
): Bound[] {
  const bounds: Bound[] = [];
  const put = (n: Vec3, at: Vec3) => bounds.push({ n, d: dot(n, at) });
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length]!;
    const before = ring[(i + ring.length - 1) % ring.length]!;
    // Not beyond the faces across the ring, and not below the ring itself: both would be hollow.
    const across = cross(subtract(a, b), subtract(corners[far[i]!]!, b));
    if (length(across) > 0) put(scaled(normalized(across), -1), a);
    const under = cross(subtract(a, before), subtract(b, before));
    if (length(under) > 0) put(normalized(under), a);
    const touching = tangent(corner, a, b, points, size);
    if (touching) put(touching, a);
  });
  return bounds;
}

/** The normal of the face of a corner and an edge, turned about the edge until it touches a point. */
function tangent(corner: Vec3, a: Vec3, b: Vec3, points: Float64Array, size: number): Vec3 | null {
  const edge = subtract(b, a);
  const face = cross(subtract(a, corner), subtract(b, corner));
  if (!(length(edge) > 0) || !(length(face) > 0)) return null;
  const up = normalized(face);
  const inward = normalized(cross(up, edge));
  let least = Infinity;
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = [points[i]! - a[0], points[i + 1]! - a[1], points[i + 2]! - a[2]];
    const along = inward[0] * x + inward[1] * y + inward[2] * z;
    const depth = -(up[0] * x + up[1] * y + up[2] * z);
    if (Math.abs(along) < size * ON_EDGE && Math.abs(depth) < size * ON_EDGE) continue;
    const angle = Math.atan2(Math.max(0, depth), along);
    if (angle < least) least = angle;
  }
  if (!(least < Math.PI)) return null;
  return add(scaled(up, Math.cos(least)), scaled(inward, Math.sin(least)));
}

/** A corner moved against the growth as far as its bounds let it, first straight, then along them. */
function lowered(from: Vec3, growth: Vec3, bounds: readonly Bound[], size: number): Vec3 {
  let at = from;
  for (let step = 0; step < STEPS; step++) {
    const holding = bounds.filter(({ n, d }) => dot(n, at) - d <= size * TOUCHING);
    const way = steepest(growth, holding);
    if (!way) return at;
    let reach = Infinity;
    for (const bound of bounds) {
      const toward = -dot(bound.n, way);
      if (toward <= 1e-12 || holding.includes(bound)) continue;
      reach = Math.min(reach, (dot(bound.n, at) - bound.d) / toward);
    }
    if (!(reach < size * 4)) return at;
    at = add(at, scaled(way, reach));
  }
  return at;
}

/** The direction that takes away most, of those that what holds a corner lets it go; null when none does. */
function steepest(growth: Vec3, holding: readonly Bound[]): Vec3 | null {
  if (!(length(growth) > 0)) return null;
  const down = scaled(normalized(growth), -1);
  const tried: Vec3[] = [down];
  holding.forEach(({ n }, i) => {
    tried.push(subtract(down, scaled(n, dot(down, n))));
    for (const other of holding.slice(i + 1)) {
      const line = cross(n, other.n);
      tried.push(scaled(line, Math.sign(dot(line, down))));
    }
  });
  let best: Vec3 | null = null;
  let most = 1e-9;
  for (const way of tried) {
    if (!(length(way) > 1e-12)) continue;
    const unit = normalized(way);
    const gain = dot(unit, down);
    if (gain <= most || holding.some(({ n }) => dot(n, unit) < -1e-12)) continue;
    most = gain;
    best = unit;
  }
  return best;
}
