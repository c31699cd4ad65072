import { type ConvexPolyhedron, clipConvex, facePlanes } from '../hull/index.js';

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

/**
 * How deep two convex bodies go into each other: the least width of what they share, over the directions of
 * both bodies' faces; 0 when they only touch.
 */
export function crossingDepth(a: ConvexBody, b: ConvexBody, eps: number): number {
  for (let k = 0; k < 3; k++) if (a.min[k]! >= b.max[k]! - eps || b.min[k]! >= a.max[k]! - eps) return 0;
  let shared: ConvexPolyhedron | null = a.planes.length <= b.planes.length ? b : a;
  const { planes } = shared === b ? a : b;
  for (let i = 0; i < planes.length && shared; i += 4)
    shared = clipConvex(shared, planes[i]!, planes[i + 1]!, planes[i + 2]!, planes[i + 3]!, eps);
  if (!shared) return 0;
  let depth = Infinity;
  for (const side of [a.planes, b.planes])
    for (let i = 0; i < side.length; i += 4) {
      let low = Infinity;
      let high = -Infinity;
      for (let v = 0; v < shared.points.length; v += 3) {
        const at =
          side[i]! * shared.points[v]! +
          side[i + 1]! * shared.points[v + 1]! +
          side[i + 2]! * shared.points[v + 2]!;
        if (at < low) low = at;
        if (at > high) high = at;
      }
      depth = Math.min(depth, high - low);
    }
  return depth <= eps * 4 ? 0 : depth;
}
