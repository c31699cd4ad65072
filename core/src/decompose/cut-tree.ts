import { volumeOfHullOf } from '../hull/index.js';
import { diagonalOf } from '../math/index.js';
import { crosses } from '../compare/convex-overlap.js';
import { type CutPlane, cutFragment, type Fragment, fragmentBounds, splitFragment } from './fragment.js';
import { cutCandidates, evenPlanes } from './cut-candidates.js';
import {
  ENOUGH_CORNERS,
  type ConvexPart,
  convexPartOf,
  reachesInto,
  type DecompositionContext,
} from './convex-part.js';

/** Planes of the art itself that are tried in full at each cut, beside even slices. */
const OWN_PLANES = 8;
/** What taking away concave edges is worth beside volume: it leads over steps that gain no volume yet. */
const FOLD_WORTH = 0.5;
/** A cut that a person would not take first has to gain a little more. */
const SECOND_WORTH = 0.95;
/** A slice that follows nothing in the art has to gain this much more. */
const SLICE_WORTH = 0.7;

/** Pieces on one side whose hulls together fill more than this share of the hull round all of them are one. */
const ONE_SIDE_FILL_SHARE = 0.6;
/** Corners that are enough to tell that. */
const ROUGH_CORNERS = 16;

/** Pieces that stand off more than this share of the size are cut on, however many there are, up to so many. */
const CUT_ON_SHARE = 0.02;
const MAX_CONVEX_PARTS = 240;

export interface CutOptions {
  /** stop with so many pieces, unless some still stand off far */
  pieces: number;
  /** pieces whose hull stands off the art by less than this many metres are left whole */
  enough: number;
}

/**
 * Cut pieces down, the one that stands off most first, until all are near enough or there are too many.
 * A piece that reaches into a clearance comes before all others and is cut until it does not.
 */
export function cutDown(
  start: readonly ConvexPart[],
  { pieces, enough }: CutOptions,
  context: DecompositionContext,
): ConvexPart[] {
  const done: ConvexPart[] = [];
  let waiting = [...start];
  const enters = new Map<ConvexPart, boolean>();
  const entersClearance = (piece: ConvexPart): boolean => {
    let known = enters.get(piece);
    if (known === undefined) enters.set(piece, (known = reachesInto(piece, context)));
    return known;
  };
  while (waiting.length) {
    const count = waiting.length + done.length;
    context.progress(Math.min(0.99, count / pieces) * 0.4);
    const next = waiting.reduce((a, b) => (urgency(b) > urgency(a) ? b : a));
    const blocked = entersClearance(next);
    const far = next.standOff > context.size * CUT_ON_SHARE && count < MAX_CONVEX_PARTS;
    if (!blocked && (next.standOff <= enough || (count >= pieces && !far))) break;
    waiting = waiting.filter((piece) => piece !== next);
    // What lies near the art already and only reaches in a little is cut along the clearance, not for its own unevenness.
    const along = blocked && next.standOff <= context.size * CUT_ON_SHARE;
    const parts = (along ? null : bestCut(next, context)) ?? (blocked ? cutAtClearance(next, context) : null);
    if (parts) waiting.push(...parts);
    else if (!blocked) done.push(next);
  }
  return [...done, ...waiting];

  function urgency(piece: ConvexPart): number {
    return (entersClearance(piece) ? context.size * 10 : 0) + piece.standOff;
  }
}

/** The pieces of the cut that is worth most; null when none is worth anything. */
function bestCut(piece: ConvexPart, context: DecompositionContext): ConvexPart[] | null {
  const { fragment } = piece;
  if (!fragment || !piece.hull) return null;
  const eps = diagonalOf(fragmentBounds(fragment)) * 1e-7;
  const excess = Math.max(piece.hullVolume - piece.volume, context.size ** 3 * 1e-12);
  const own = cutCandidates(fragment, OWN_PLANES);
  const tried = [
    ...own.planes.map(({ plane, resolves, first }) => ({
      plane,
      resolves,
      worth: first ? 1 : SECOND_WORTH,
      halved: false,
    })),
    ...evenPlanes(fragment).map(({ halved, ...plane }) => ({
      plane,
      resolves: 0,
      worth: SLICE_WORTH,
      halved,
    })),
  ];
  let best: Fragment[] | null = null;
  let halves: Fragment[] | null = null;
  let most = 1e-3;
  for (const { plane, resolves, worth, halved } of tried) {
    context.progress(-1);
    const parts = cutApart(fragment, plane, eps);
    if (parts.length < 2) continue;
    if (halved && parts.length <= 3) halves ??= parts;
    // Once the hulls fill more than what would still beat the best, the rest need not be known.
    const needed = (most * (parts.length - 1) - FOLD_WORTH * resolves) / worth;
    if (needed > 1) continue;
    const limit = piece.hullVolume - needed * excess;
    let sum = 0;
    for (let i = 0; i < parts.length && sum < limit; i++)
      sum += volumeOfHullOf(parts[i]!.points, ENOUGH_CORNERS, limit - sum);
    if (sum >= limit) continue;
    const gain = (piece.hullVolume - sum) / excess;
    const score = (gain * worth + FOLD_WORTH * resolves) / (parts.length - 1);
    if (score <= most * (1 + 1e-9) || (gain < 1e-4 && resolves < 1e-4)) continue;
    most = score;
    best = parts;
  }
  // A ring gains nothing by its first cut, and everything by the second.
  if (!best && piece.standOff > context.size * CUT_ON_SHARE) best = halves;
  return (
    best && best.map((part) => convexPartOf(part, piece.group, context)).filter((part) => keeps(part, piece))
  );
}

/** What is left flat of something solid is a crumb of the cut. */
const keeps = (part: ConvexPart, whole: ConvexPart): boolean => !!part.hull || whole.volume === 0;

/** Both sides of a cut; what falls apart on one side is told apart only where its pieces lie apart, too. */
function cutApart(fragment: Fragment, plane: CutPlane, eps: number): Fragment[] {
  const [low, high] = cutFragment(fragment, plane, eps);
  if (!low || !high) return [];
  return [low, high].flatMap((side) => {
    const parts = splitFragment(side);
    if (parts.length < 3) return parts;
    const apart = parts.reduce((sum, part) => sum + volumeOfHullOf(part.points, ROUGH_CORNERS), 0);
    return apart > ONE_SIDE_FILL_SHARE * volumeOfHullOf(side.points, ROUGH_CORNERS) ? [side] : parts;
  });
}

/** Cut along the faces of the clearances that a piece reaches into; what lies inside one is left out. */
function cutAtClearance(piece: ConvexPart, context: DecompositionContext): ConvexPart[] {
  const { fragment } = piece;
  if (!fragment || !piece.body) return [];
  const eps = diagonalOf(fragmentBounds(fragment)) * 1e-9;
  const clearance = context.clearances.find((c) => crosses(piece.body!, c, 0, context.size * 1e-9))!;
  let left = Infinity;
  let best: { outside: Fragment[]; inside: Fragment[] } | null = null;
  for (let i = 0; i < clearance.planes.length; i += 4) {
    const [nx, ny, nz, d] = clearance.planes.subarray(i, i + 4) as unknown as [
      number,
      number,
      number,
      number,
    ];
    const [inside, outside] = cutFragment(fragment, { nx, ny, nz, d }, eps);
    if (!outside) continue;
    const parts = { outside: splitFragment(outside), inside: inside ? splitFragment(inside) : [] };
    const sum = [...parts.outside, ...parts.inside].reduce(
      (s, f) => s + volumeOfHullOf(f.points, ENOUGH_CORNERS),
      0,
    );
    if (sum >= left) continue;
    left = sum;
    best = parts;
  }
  // Behind every face: all of it is inside the clearance.
  if (!best) return [];
  return [...best.outside, ...best.inside]
    .map((part) => convexPartOf(part, piece.group, context))
    .filter((part) => keeps(part, piece));
}
