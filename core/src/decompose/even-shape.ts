import {
  balanceCorners,
  type ConvexHull,
  clipConvex,
  convexHull,
  hullMisfit,
  hullShape,
  hullVolume,
  verticesCentre,
  withEvenBudget,
  withVertexBudget,
} from '../hull/index.js';
import type { HullShape } from '../shape/index.js';
import { joinedPoints } from './convex-part.js';
import type { Mirror } from './mirror.js';

/** Shares of the corners allowed that are tried: those on the plane count once for both halves. */
const SHARES = [1, 0.94, 0.87, 0.8, 0.7, 0.6];

/** So many times the corners allowed are begun with when they are dropped two by two: which is best cannot be told. */
const SPARE_FACTORS = [1.5, 2.25, 3, 5];

/**
 * The hull of a piece that is its own image made its own image, too. Its two halves need not have found the same corners
 * and made alike may have more than are allowed: then the nearest of some with corners chosen on one half and, when
 * those are not near enough, some whose corners were dropped two by two.
 *
 * @param points what it was laid round. Shape: [3n]
 */
export function evenShape(
  shape: HullShape,
  points: Float64Array,
  mirror: Mirror,
  { maxVertices, size }: { maxVertices: number; size: number },
): HullShape {
  const eps = size * 1e-9;
  const allowed = (hulls: readonly (ConvexHull | null)[]) =>
    hulls.find((hull): hull is ConvexHull => !!hull && hull.points.length / 3 <= maxVertices);
  const whole = { points: Float64Array.from(shape.points), faces: shape.faces };
  const asItIs = allowed([1, -1].map((side) => evenedFrom(whole, side, mirror, eps)));
  if (asItIs) return hullShape(asItIs);
  const found = convexHull(joinedPoints([points, mirror.mirrored(points)]), { maxVertices: maxVertices * 5 });
  if (found.span !== 'solid') return shape;
  const { hull } = found;
  let best: ConvexHull | undefined;
  let least = Infinity;
  const look = (even: ConvexHull | undefined) => {
    const misfit = even ? hullMisfit(even, hull) : Infinity;
    if (misfit >= least * (1 - 1e-3)) return;
    best = even;
    least = misfit;
  };
  fromCorners().forEach(look);
  // What is as near as the hull that it stands for need not be sought longer.
  if (least > hullMisfit(whole, hull)) fromPairs().forEach(look);
  return best ? hullShape(balanceCorners(best, hull, evened)) : shape;

  /** Places of the near side and their images. */
  function evened(points: Float64Array): Float64Array {
    const near = mirror.snapped(points.filter((_, i) => isNear(points, i - (i % 3))));
    return joinedPoints([near, mirror.mirrored(near)]);
  }

  function isNear(points: ArrayLike<number>, at: number, side = 1): boolean {
    return mirror.off([points[at]!, points[at + 1]!, points[at + 2]!]) * side <= eps;
  }

  /** The farthest corners of one side and their images, the cheapest dropped two by two. */
  function fromPairs(): (ConvexHull | undefined)[] {
    return SPARE_FACTORS.flatMap((factor) => {
      const far = convexHull(hull.points, { maxVertices: Math.round(maxVertices * factor) });
      if (far.span !== 'solid') return [];
      return [1, -1].map((side) => {
        const start = evenedFrom(far.hull, side, mirror, eps);
        const few = start && withEvenBudget(start, maxVertices, (points) => mirror.mirrored(points));
        return few ? grown(few) : undefined;
      });
    });
  }

  /** The corners that the whole has on one side, and their images. */
  function fromCorners(): (ConvexHull | undefined)[] {
    return [1, -1].map((side) => {
      for (const share of SHARES) {
        const { points: few } = withVertexBudget(hull, Math.floor(maxVertices * share), 'inside');
        const own = few.filter((_, i) => isNear(few, i - (i % 3), side));
        const found = convexHull(joinedPoints([own, mirror.mirrored(own)]));
        if (found.span === 'solid' && allowed([found.hull])) return grown(found.hull);
      }
      return undefined;
    });
  }

  /** Corners brought to both sides of the surface, so that the volume is kept. */
  function grown(inner: ConvexHull): ConvexHull | undefined {
    const middle = mirror.ontoPlane(verticesCentre(inner.points));
    const grow = Math.cbrt(hullVolume(hull) / hullVolume(inner));
    const found = convexHull(inner.points.map((v, i) => middle[i % 3]! + (v - middle[i % 3]!) * grow));
    return found.span === 'solid' ? found.hull : undefined;
  }
}

/** What of a hull lies on one side of the plane: 1 the near one, -1 the far one. */
function halfOf(
  { points, faces }: ConvexHull,
  side: number,
  { cut: { nx, ny, nz, d } }: Mirror,
  eps: number,
): ConvexHull | null {
  const half = clipConvex({ points: [...points], faces }, side * nx, side * ny, side * nz, side * d, eps);
  const found = half && convexHull(half.points);
  return found?.span === 'solid' ? found.hull : null;
}

/** The hull of one half of a hull and of the image of that. */
function evenedFrom(hull: ConvexHull, side: number, mirror: Mirror, eps: number): ConvexHull | null {
  const half = halfOf(hull, side, mirror, eps);
  if (!half) return null;
  const points = mirror.snapped(half.points);
  const both = convexHull(joinedPoints([points, mirror.mirrored(points)]));
  return both.span === 'solid' ? both.hull : null;
}
