import { type ConvexHull, convexHull, type HullOptions, hullVolume } from '../hull/index.js';
import { type ConvexBody, convexBody, crosses } from '../compare/convex-overlap.js';
import { type Fragment, fragmentVolume } from './fragment.js';
import { type ArtDistance, hullStandOff } from './stand-off.js';

/** Some of the art, and the convex hull that would stand for it. */
export interface ConvexPart {
  /** the art of it; null for several pieces taken together */
  fragment: Fragment | null;
  /** the pieces it was joined from; none for one that was cut */
  joined: readonly ConvexPart[];
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
export interface DecompositionContext extends ArtDistance {
  clearances: ConvexBody[];
  /** metres below which detail does not matter; 0 for nobody in particular */
  agentDetail: number;
  /** called between small steps with the share done; may throw to stop */
  progress: (share: number) => void;
}

/** Corners that are enough for a hull while searching; shapes are laid round all of the art after. */
export const ENOUGH_CORNERS = 64;
/** Pieces of the same make whose hulls differ by less than this share of their volume are alike. */
const ALIKE_SHARE = 0.01;
/** Joined pieces that stand off less than this share of the size are told apart by what they fill alone. */
const CLOSE_FIT_SHARE = 5e-4;

/** @param alike pieces of the same make: what is as large as one of them stands off as far, and is not measured */
export function convexPartOf(
  fragment: Fragment,
  group: number,
  context: DecompositionContext,
  alike: readonly ConvexPart[] = [],
): ConvexPart {
  context.progress(-1);
  const found = hulled(fragment.points, context.size, { maxVertices: ENOUGH_CORNERS });
  const volume = Math.min(found.hullVolume, Math.max(0, fragmentVolume(fragment)));
  const same = alike.find(
    (other) => Math.abs(other.hullVolume - found.hullVolume) <= ALIKE_SHARE * found.hullVolume,
  );
  const standOff = same?.standOff ?? (found.hull ? hullStandOff(found.hull, context) : 0);
  return { ...found, fragment, joined: [], group, volume, standOff };
}

/** One hull for several pieces; how far it stands off is left to be measured, NaN. */
export function joinedPart(parts: readonly ConvexPart[], { size }: DecompositionContext): ConvexPart {
  const found = hulled(joinedPoints(parts.map((part) => part.points)), size);
  const volume = parts.reduce((sum, part) => sum + part.volume, 0);
  return {
    ...found,
    fragment: null,
    joined: parts,
    group: parts.every((part) => part.group === parts[0]!.group) ? parts[0]!.group : -1,
    volume: Math.min(found.hullVolume, volume),
    standOff: found.hull ? NaN : 0,
  };
}

/** Points with their hull; flatter than a billionth of the size is flat: its volume would be rounding. */
function hulled(
  points: Float64Array,
  size: number,
  options?: HullOptions,
): Pick<ConvexPart, 'points' | 'hull' | 'body' | 'hullVolume'> {
  const result = convexHull(points, options);
  const full = result.span === 'solid' ? hullVolume(result.hull) : 0;
  if (result.span !== 'solid' || full < size ** 3 * 1e-15)
    return { points, hull: null, body: null, hullVolume: 0 };
  const { hull } = result;
  return { points: hull.points, hull, body: convexBody(hull.points, hull.faces), hullVolume: full };
}

/** The piece with its stand-off, or with as much of it as goes beyond `limit`. */
export const measured = (piece: ConvexPart, context: DecompositionContext, limit = Infinity): ConvexPart =>
  piece.hull
    ? {
        ...piece,
        standOff: hullStandOff(piece.hull, context, {
          limit,
          least: context.size * CLOSE_FIT_SHARE,
          held: piece.joined,
        }),
      }
    : piece;

/** The pieces that were cut, of which this one was joined. */
export const leavesOf = (piece: ConvexPart): ConvexPart[] =>
  piece.joined.length ? piece.joined.flatMap(leavesOf) : [piece];

/** Packed points one after the other. Shape: [3n]. */
export function joinedPoints(lists: readonly ArrayLike<number>[]): Float64Array {
  const points = new Float64Array(lists.reduce((n, list) => n + list.length, 0));
  let at = 0;
  for (const list of lists) {
    points.set(list, at);
    at += list.length;
  }
  return points;
}

/** Whether the hull of a piece goes into a clearance; touching one is allowed. */
export const reachesInto = (piece: ConvexPart, { clearances, size }: DecompositionContext): boolean =>
  !!piece.body && clearances.some((clearance) => crosses(piece.body!, clearance, 0, size * 1e-9));
