import { type ConvexHull, convexHull, hullVolume } from '../hull/index.js';
import type { SolidDistance } from '../solid/index.js';
import { type ConvexBody, convexBody, crossingDepth } from './convex-overlap.js';
import { facePoints, type Fragment, fragmentVolume } from './fragment.js';
import { hullStandOff } from './stand-off.js';

/** Some of the art, and the convex hull that would stand for it. */
export interface Piece {
  /** the art of it; null for several pieces taken together */
  fragment: Fragment | null;
  /** which separate solid of the art it is part of; -1 for several */
  group: number;
  /** corners of the hull, or all points when they are flat. Shape: [3n] */
  points: Float64Array;
  /** null when the points are flat */
  hull: ConvexHull | null;
  body: ConvexBody | null;
  hullVolume: number;
  /** of the art in it, between 0 and the hull's */
  volume: number;
  /** how far the hull stands off the art at most */
  standOff: number;
}

/** What every step of a decomposition needs to know. */
export interface Workshop {
  art: SolidDistance;
  /** diagonal of the art */
  size: number;
  clearances: ConvexBody[];
  /** called between small steps with the share done; may throw to stop */
  tick: (share: number) => void;
}

export function pieceOf(fragment: Fragment, group: number, shop: Workshop): Piece {
  return solidPiece(facePoints(fragment), fragmentVolume(fragment), group, shop, fragment);
}

export function solidPiece(
  points: Float64Array,
  volume: number,
  group: number,
  { art, size }: Workshop,
  fragment: Fragment | null = null,
): Piece {
  const result = convexHull(points);
  // Flatter than a billionth of the size is flat: its volume would be rounding.
  const full = result.span === 'solid' ? hullVolume(result.hull) : 0;
  if (result.span !== 'solid' || full < size ** 3 * 1e-15) {
    return { fragment, group, points, hull: null, body: null, hullVolume: 0, volume: 0, standOff: 0 };
  }
  const { hull } = result;
  return {
    fragment,
    group,
    points: hull.points,
    hull,
    body: convexBody(hull.points, hull.faces),
    hullVolume: full,
    volume: Math.min(full, Math.max(0, volume)),
    standOff: hullStandOff(hull, art, size),
  };
}

/** Whether the hull of a piece goes into a clearance; touching one is allowed. */
export const reachesInto = (piece: Piece, { clearances, size }: Workshop): boolean =>
  !!piece.body && clearances.some((clearance) => crossingDepth(piece.body!, clearance, size * 1e-9) > 0);
