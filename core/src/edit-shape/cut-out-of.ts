import { facePlanes } from '../hull/index.js';
import { scaled, type Vec3 } from '../math/index.js';
import { type Shape, shapePolygons, shapeVolume } from '../shape/index.js';
import { cutShape } from './cut-shape.js';

/** The planes of a convex shape: a point in each, and its normal outward. */
function planesOfShape(shape: Shape): { point: Vec3; normal: Vec3 }[] {
  const { points, faces } = shapePolygons(shape);
  const planes = facePlanes(points, faces);
  return faces.map((_, f) => {
    const normal: Vec3 = [planes[f * 4]!, planes[f * 4 + 1]!, planes[f * 4 + 2]!];
    return { normal, point: scaled(normal, planes[f * 4 + 3]!) };
  });
}

/**
 * What of a solid shape lies outside a convex obstacle, in pieces that meet each other and the obstacle: cut along its
 * faces one after the other, that one first which leaves most. No pieces when all of it lies inside.
 *
 * @example cutOutOf(wall, doorway) // left of it, right of it, and above
 */
export function cutOutOf(shape: Shape, obstacle: Shape): Shape[] {
  const pieces: Shape[] = [];
  let left: Shape | null = shape;
  const planes = planesOfShape(obstacle);
  while (left && planes.length) {
    const cuts = planes.map((plane) => cutShape(left!, plane));
    const sizes = cuts.map(({ above }) => (above ? shapeVolume(above) : 0));
    const most = sizes.reduce((best, size, i) => (size > sizes[best]! ? i : best), 0);
    if (sizes[most] === 0) break;
    pieces.push(cuts[most]!.above!);
    left = cuts[most]!.below;
    planes.splice(most, 1);
  }
  return pieces;
}

/** More of a shape than this share of its volume is not given up for two to meet. */
const MAX_LOST_SHARE = 0.01;
/** Pieces that a shape falls into at most. */
const MAX_PIECES = 3;

/** What becomes of two shapes that go into each other: other ones for each, none where it lay in the other. */
export interface Trimmed {
  a: Shape[];
  b: Shape[];
}

/**
 * Two shapes that go into each other, trimmed so that they meet: one is cut along that face of the other which loses
 * least of both together, or falls into pieces about it. Null when that would lose or make too much.
 *
 * @param shared cubic metres that they have in common
 */
export function trimToMeet(a: Shape, b: Shape, shared: number): Trimmed | null {
  const cuts = [
    ...planesOfShape(a).map((plane) => ({ of: 'b' as const, whole: b, kept: cutShape(b, plane).above })),
    ...planesOfShape(b).map((plane) => ({ of: 'a' as const, whole: a, kept: cutShape(a, plane).above })),
  ].map((cut) => ({
    ...cut,
    lost: shapeVolume(cut.whole) - (cut.kept ? shapeVolume(cut.kept) : 0) - shared,
  }));
  const best = cuts.reduce((least, cut) => (cut.lost < least.lost - 1e-12 ? cut : least));
  if (best.lost <= shapeVolume(best.whole) * MAX_LOST_SHARE) {
    const kept = best.kept ? [best.kept] : [];
    return best.of === 'b' ? { a: [a], b: kept } : { a: kept, b: [b] };
  }
  const [smaller, larger] = shapeVolume(b) <= shapeVolume(a) ? [b, a] : [a, b];
  const pieces = cutOutOf(smaller, larger);
  if (pieces.length > MAX_PIECES) return null;
  return smaller === b ? { a: [a], b: pieces } : { a: pieces, b: [b] };
}
