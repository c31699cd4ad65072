import { crosses } from '../compare/convex-overlap.js';
import { boundsOf } from '../math/index.js';
import { thicknessOf } from './misfit.js';
import type { Mirror } from './mirror.js';
import { standsOffAtLeast } from './stand-off.js';
import {
  joinedPart,
  measured,
  type ConvexPart,
  reachesInto,
  type DecompositionContext,
} from './convex-part.js';

/**
 * With more pieces than this only so many near ones are looked at as partners, and where nobody in particular collides
 * how far a pair stands off is known from below only.
 */
const ALL_PAIRS = 24;
const NEAR_PAIRS = 10;
/** Of what the boxes round two pieces leave empty, so much is filled by their hull at least, about. */
const BOX_SHARE = 0.3;

export interface JoinOptions {
  /** shapes may go into each other by no more than this many metres; Infinity when they may cross */
  crossing: number;
  /** of symmetric art the near side is given: what is joined there is joined on the far side, too */
  mirror?: Mirror | null;
  /** whether a piece may be joined with what lies on the other side; else the two sides are solids of their own */
  across?: boolean;
}

/** A piece, and its image where it has one: the two are joined to others in one step. */
interface Piece {
  part: ConvexPart;
  image: ConvexPart | null;
}

/** Pieces that might be joined; what that costs is found out step by step, only for those that could be cheapest. */
interface Pair {
  /** one piece twice: it is joined to its own image */
  a: Piece;
  b: Piece;
  /** what is joined; when what comes out has an image, that is joined of the images */
  parts: readonly ConvexPart[];
  /** how many shapes fewer there are after */
  saved: number;
  joined: ConvexPart | null;
  /** what is filled, as far as it is known */
  filled: number;
  /** the whole price, or less while not all is known */
  price: number;
  known: 'boxes' | 'hull' | 'all';
}

/**
 * Join pieces two by two, what costs least first: how far the joined hull stands off the art, and how much it
 * fills. Returns every state on the way, the first with all pieces. Pairs whose hull would enter a
 * clearance are never joined; where shapes may not cross, what a joined hull runs into is joined with it.
 */
export function joinUp(
  start: readonly ConvexPart[],
  { crossing, mirror = null, across = true }: JoinOptions,
  context: DecompositionContext,
): ConvexPart[][] {
  const withImage = (part: ConvexPart): Piece => ({
    part,
    image: mirror && mirror.sideOf(part.points) < 0 ? mirror.imageOf(part) : null,
  });
  let live = start.map(withImage);
  const states: ConvexPart[][] = [live.flatMap(partsOf)];
  let pairs: Pair[] = [];
  live.forEach((a, i) => pairs.push(...pairsWith(a, live.slice(i + 1), live.length, across, context)));
  while (live.length > 1 || live.some(({ image }) => image)) {
    context.progress(-1);
    const pair = cheapest(pairs, live, crossing, context);
    if (!pair) break;
    const gone = new Set([pair.a, pair.b]);
    let joined: Piece = { part: pair.joined!, image: null };
    if (mirror && isTwofold(pair)) joined.image = mirror.imageOf(joined.part);
    if (crossing !== Infinity) {
      joined = { ...joined, part: takingInWhatCrosses(joined.part, live, gone, crossing, context) };
      if (reachesInto(joined.part, context)) {
        pairs = pairs.filter((other) => other !== pair);
        continue;
      }
    }
    live = live.filter((piece) => !gone.has(piece));
    pairs = pairs.filter(({ a, b }) => !gone.has(a) && !gone.has(b));
    pairs.push(...pairsWith(joined, live, live.length + 1, across, context));
    live.push(joined);
    states.push(live.flatMap(partsOf));
  }
  return states;
}

const partsOf = ({ part, image }: Piece): ConvexPart[] => (image ? [part, image] : [part]);

/** Whether the images of two pieces are joined in the same step. */
const isTwofold = ({ a, b }: Pick<Pair, 'a' | 'b'>): boolean => a !== b && !!a.image && !!b.image;

function pairsWith(
  a: Piece,
  others: readonly Piece[],
  count: number,
  across: boolean,
  context: DecompositionContext,
): Pair[] {
  let near = others;
  if (count > ALL_PAIRS)
    near = others
      .map((b) => ({ b, gap: gapBetween(a.part, b.part) }))
      .sort((x, y) => x.gap - y.gap)
      .slice(0, NEAR_PAIRS)
      .map(({ b }) => b);
  const pairOf = (b: Piece, parts: readonly ConvexPart[], saved: number): Pair => ({
    a,
    b,
    parts,
    saved,
    joined: null,
    filled: 0,
    price: priceByBoxes(parts, saved, context),
    known: 'boxes',
  });
  const pairs = near.flatMap((b) => {
    if (!isTwofold({ a, b })) {
      const parts = [...partsOf(a), ...partsOf(b)];
      return [pairOf(b, parts, parts.length - 1)];
    }
    const beside = pairOf(b, [a.part, b.part], 1);
    // What crosses the plane aslant was cut there: one half on the near side goes with the other on the far.
    return across && touch(a.part, b.image!, context) ? [beside, pairOf(b, [a.part, b.image!], 1)] : [beside];
  });
  if (a.image && across) pairs.push(pairOf(a, partsOf(a), 1));
  return pairs;
}

const touch = (a: ConvexPart, b: ConvexPart, { size }: DecompositionContext): boolean =>
  gapBetween(a, b) <= size * 1e-6;

interface Box {
  min: ArrayLike<number>;
  max: ArrayLike<number>;
}

const boxes = new WeakMap<ConvexPart, Box>();
function boxOf(piece: ConvexPart): Box {
  let box = boxes.get(piece);
  if (!box) boxes.set(piece, (box = piece.body ?? boundsOf(piece.points)));
  return box;
}

/** Distance between bounding boxes. */
function gapBetween(a: ConvexPart, b: ConvexPart): number {
  const [p, q] = [boxOf(a), boxOf(b)];
  let sum = 0;
  for (let k = 0; k < 3; k++) sum += Math.max(0, p.min[k]! - q.max[k]!, q.min[k]! - p.max[k]!) ** 2;
  return Math.sqrt(sum);
}

function priceByBoxes(parts: readonly ConvexPart[], saved: number, context: DecompositionContext): number {
  const boxes = parts.map(boxOf);
  const volume = (low: (k: number) => number, high: (k: number) => number) =>
    (high(0) - low(0)) * (high(1) - low(1)) * (high(2) - low(2));
  const round = volume(
    (k) => boxes.reduce((least, { min }) => Math.min(least, min[k]!), Infinity),
    (k) => boxes.reduce((most, { max }) => Math.max(most, max[k]!), -Infinity),
  );
  const own = boxes.reduce(
    (sum, { min, max }) =>
      sum +
      volume(
        (k) => min[k]!,
        (k) => max[k]!,
      ),
    0,
  );
  return thicknessOf((BOX_SHARE * (round - own)) / saved, context);
}

/** The cheapest pair that may be joined, its price known in full. */
function cheapest(
  pairs: Pair[],
  live: readonly Piece[],
  crossing: number,
  context: DecompositionContext,
): Pair | null {
  for (;;) {
    let best: Pair | undefined;
    let sure = Infinity;
    for (const pair of pairs) {
      if (!best || pair.price < best.price) best = pair;
      if (pair.known === 'all' && pair.price < sure) sure = pair.price;
    }
    if (!best || best.known === 'all') return best ?? null;
    context.progress(-1);
    if (best.known === 'boxes') {
      best.joined = joinedPart(best.parts, context);
      if (reachesInto(best.joined, context)) pairs.splice(pairs.indexOf(best), 1);
      const own = best.parts.reduce((sum, { hullVolume }) => sum + hullVolume, 0);
      best.filled = thicknessOf((best.joined.hullVolume - own) / best.saved, context);
      best.price = best.filled + (best.joined.hull ? standsOffAtLeast(best.joined.hull, context) : 0);
      best.known = 'hull';
      continue;
    }
    if (context.agentDetail > 0 || live.length <= ALL_PAIRS) {
      // Dearer than a pair that is known is all that has to be known.
      best.joined = measured(best.joined!, context, sure - best.filled);
      best.price = best.filled + best.joined.standOff;
      if (best.price > sure) continue;
    } else best.joined = measured(best.joined!, context);
    if (crossing !== Infinity)
      best.price +=
        runsInto(best.joined, live, new Set([best.a, best.b]), crossing, context).length *
        context.size *
        0.05;
    best.known = 'all';
  }
}

/** Where shapes may not cross nothing has an image. */
function runsInto(
  joined: ConvexPart,
  live: readonly Piece[],
  own: ReadonlySet<Piece>,
  crossing: number,
  { size }: DecompositionContext,
): Piece[] {
  if (!joined.body) return [];
  return live.filter(
    (other) =>
      !own.has(other) && other.part.body && crosses(joined.body!, other.part.body, crossing, size * 1e-9),
  );
}

function takingInWhatCrosses(
  joined: ConvexPart,
  live: readonly Piece[],
  gone: Set<Piece>,
  crossing: number,
  context: DecompositionContext,
): ConvexPart {
  for (let grown = joined; ;) {
    const hit = runsInto(grown, live, gone, crossing, context);
    if (!hit.length) return measured(grown, context);
    for (const piece of hit) gone.add(piece);
    grown = joinedPart([grown, ...hit.map(({ part }) => part)], context);
  }
}
