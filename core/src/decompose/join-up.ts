import { crosses } from '../compare/convex-overlap.js';
import { boundsOf } from '../math/index.js';
import { thicknessOf } from './misfit.js';
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
}

/** Two pieces that might be joined; what that costs is found out step by step, only for pairs that could be cheapest. */
interface Pair {
  a: ConvexPart;
  b: ConvexPart;
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
  { crossing }: JoinOptions,
  context: DecompositionContext,
): ConvexPart[][] {
  const states: ConvexPart[][] = [[...start]];
  let live = [...start];
  let pairs: Pair[] = [];
  live.forEach((a, i) => pairs.push(...pairsWith(a, live.slice(i + 1), live.length, context)));
  while (live.length > 1) {
    context.progress(-1);
    const pair = cheapest(pairs, live, crossing, context);
    if (!pair) break;
    const gone = new Set([pair.a, pair.b]);
    let joined = pair.joined!;
    if (crossing !== Infinity) {
      joined = takingInWhatCrosses(joined, live, gone, crossing, context);
      if (reachesInto(joined, context)) {
        pairs = pairs.filter((other) => other !== pair);
        continue;
      }
    }
    live = live.filter((piece) => !gone.has(piece));
    pairs = pairs.filter(({ a, b }) => !gone.has(a) && !gone.has(b));
    pairs.push(...pairsWith(joined, live, live.length + 1, context));
    live.push(joined);
    states.push([...live]);
  }
  return states;
}

function pairsWith(
  a: ConvexPart,
  others: readonly ConvexPart[],
  count: number,
  context: DecompositionContext,
): Pair[] {
  let near = others;
  if (count > ALL_PAIRS)
    near = others
      .map((b) => ({ b, gap: gapBetween(a, b) }))
      .sort((x, y) => x.gap - y.gap)
      .slice(0, NEAR_PAIRS)
      .map(({ b }) => b);
  return near.map((b) => ({
    a,
    b,
    joined: null,
    filled: 0,
    price: priceByBoxes(a, b, context),
    known: 'boxes',
  }));
}

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

function priceByBoxes(a: ConvexPart, b: ConvexPart, context: DecompositionContext): number {
  const [p, q] = [boxOf(a), boxOf(b)];
  let round = 1;
  let one = 1;
  let other = 1;
  for (let k = 0; k < 3; k++) {
    round *= Math.max(p.max[k]!, q.max[k]!) - Math.min(p.min[k]!, q.min[k]!);
    one *= p.max[k]! - p.min[k]!;
    other *= q.max[k]! - q.min[k]!;
  }
  return thicknessOf(BOX_SHARE * (round - one - other), context);
}

/** The cheapest pair that may be joined, its price known in full. */
function cheapest(
  pairs: Pair[],
  live: readonly ConvexPart[],
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
      best.joined = joinedPart([best.a, best.b], context);
      if (reachesInto(best.joined, context)) pairs.splice(pairs.indexOf(best), 1);
      best.filled = thicknessOf(best.joined.hullVolume - best.a.hullVolume - best.b.hullVolume, context);
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

function runsInto(
  joined: ConvexPart,
  live: readonly ConvexPart[],
  own: ReadonlySet<ConvexPart>,
  crossing: number,
  { size }: DecompositionContext,
): ConvexPart[] {
  if (!joined.body) return [];
  return live.filter(
    (other) => !own.has(other) && other.body && crosses(joined.body!, other.body, crossing, size * 1e-9),
  );
}

function takingInWhatCrosses(
  joined: ConvexPart,
  live: readonly ConvexPart[],
  gone: Set<ConvexPart>,
  crossing: number,
  context: DecompositionContext,
): ConvexPart {
  for (let grown = joined; ;) {
    const hit = runsInto(grown, live, gone, crossing, context);
    if (!hit.length) return measured(grown, context);
    for (const piece of hit) gone.add(piece);
    grown = joinedPart([grown, ...hit], context);
  }
}
