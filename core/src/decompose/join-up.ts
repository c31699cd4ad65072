import { convexHull, hullVolume } from '../hull/index.js';
import { convexBody, crossingDepth } from './convex-overlap.js';
import { type Piece, reachesInto, type Workshop } from './piece.js';
import { hullStandOff } from './stand-off.js';

/** With more pieces than this only near ones are looked at as pairs. */
const ALL_PAIRS = 40;
const NEAR_PAIRS = 14;
/** What filled volume (as an edge length) counts beside standing off, when pairs are chosen. */
const VOLUME_WORTH = 0.25;

export interface JoinOptions {
  /** shapes may go into each other by no more than this many metres; Infinity when they may cross */
  crossing: number;
  /** stop with so many */
  fewest?: number;
}

interface Pair {
  a: Piece;
  b: Piece;
  joined: Piece;
  /** at least this much; exact once `measured` */
  price: number;
  measured: boolean;
}

/**
 * Join pieces two by two, what costs least first: how far the joined hull stands off the art, and how much it
 * fills. Returns every state on the way, the first with all pieces. Pairs whose hull would enter a
 * clearance are never joined; where shapes may not cross, what a joined hull runs into is joined with it.
 */
export function joinUp(
  start: readonly Piece[],
  { crossing, fewest = 1 }: JoinOptions,
  shop: Workshop,
): Piece[][] {
  const states: Piece[][] = [[...start]];
  let live = [...start];
  let pairs: Pair[] = [];
  for (const a of live) pairs.push(...pairsWith(a, live.slice(live.indexOf(a) + 1), live.length, shop));
  while (live.length > fewest) {
    shop.tick(-1);
    const pair = cheapest(pairs, live, crossing, shop);
    if (!pair) break;
    const gone = new Set([pair.a, pair.b]);
    let joined = pair.joined;
    if (crossing !== Infinity) {
      joined = takingInWhatCrosses(joined, live, gone, crossing, shop);
      if (reachesInto(joined, shop)) {
        pairs = pairs.filter((other) => other !== pair);
        continue;
      }
    }
    live = live.filter((piece) => !gone.has(piece));
    pairs = pairs.filter(({ a, b }) => !gone.has(a) && !gone.has(b));
    pairs.push(...pairsWith(joined, live, live.length + 1, shop));
    live.push(joined);
    states.push([...live]);
  }
  return states;
}

function pairsWith(a: Piece, others: readonly Piece[], count: number, shop: Workshop): Pair[] {
  let near = others;
  if (count > ALL_PAIRS) {
    near = [...others]
      .map((b) => ({ b, gap: gapBetween(a, b) }))
      .sort((x, y) => x.gap - y.gap)
      .slice(0, NEAR_PAIRS)
      .map(({ b }) => b);
  }
  const pairs: Pair[] = [];
  for (const b of near) {
    const joined = together([a, b]);
    const price = VOLUME_WORTH * Math.cbrt(Math.max(0, joined.hullVolume - a.hullVolume - b.hullVolume));
    if (reachesInto(joined, shop)) continue;
    pairs.push({ a, b, joined, price, measured: false });
  }
  return pairs;
}

/** Distance between bounding boxes. */
function gapBetween(a: Piece, b: Piece): number {
  const [p, q] = [boundsOfPiece(a), boundsOfPiece(b)];
  return Math.hypot(...[0, 1, 2].map((k) => Math.max(0, p.min[k]! - q.max[k]!, q.min[k]! - p.max[k]!)));
}

const known = new WeakMap<Piece, { min: number[]; max: number[] }>();
function boundsOfPiece(piece: Piece): { min: number[]; max: number[] } {
  let bounds = known.get(piece);
  if (!bounds) known.set(piece, (bounds = piece.body ?? convexBody(piece.points, [])));
  return bounds;
}

/** One hull for several pieces; how far it stands off is not measured yet. */
function together(pieces: readonly Piece[]): Piece {
  const points = new Float64Array(pieces.reduce((n, { points }) => n + points.length, 0));
  let at = 0;
  for (const piece of pieces) {
    points.set(piece.points, at);
    at += piece.points.length;
  }
  const volume = pieces.reduce((sum, piece) => sum + piece.volume, 0);
  const group = pieces.every((piece) => piece.group === pieces[0]!.group) ? pieces[0]!.group : -1;
  const result = convexHull(points);
  if (result.span !== 'solid')
    return { fragment: null, group, points, hull: null, body: null, hullVolume: 0, volume: 0, standOff: NaN };
  const { hull } = result;
  const full = hullVolume(hull);
  return {
    fragment: null,
    group,
    points: hull.points,
    hull,
    body: convexBody(hull.points, hull.faces),
    hullVolume: full,
    volume: Math.min(full, volume),
    standOff: NaN,
  };
}

const measure = (piece: Piece, { art, size }: Workshop): Piece =>
  Number.isNaN(piece.standOff)
    ? { ...piece, standOff: piece.hull ? hullStandOff(piece.hull, art, size) : 0 }
    : piece;

/** The cheapest pair. Standing off is measured only for those that could be it. */
function cheapest(pairs: Pair[], live: readonly Piece[], crossing: number, shop: Workshop): Pair | null {
  for (;;) {
    let best: Pair | null = null;
    for (const pair of pairs) if (!best || pair.price < best.price) best = pair;
    if (!best || best.measured) return best;
    shop.tick(-1);
    best.joined = measure(best.joined, shop);
    best.price += best.joined.standOff;
    if (crossing !== Infinity)
      best.price +=
        runsInto(best.joined, live, new Set([best.a, best.b]), crossing, shop).length * shop.size * 0.05;
    best.measured = true;
  }
}

function runsInto(
  joined: Piece,
  live: readonly Piece[],
  own: ReadonlySet<Piece>,
  crossing: number,
  { size }: Workshop,
): Piece[] {
  if (!joined.body) return [];
  return live.filter(
    (other) =>
      !own.has(other) && other.body && crossingDepth(joined.body!, other.body, size * 1e-9) > crossing,
  );
}

function takingInWhatCrosses(
  joined: Piece,
  live: readonly Piece[],
  gone: Set<Piece>,
  crossing: number,
  shop: Workshop,
): Piece {
  for (let grown = joined; ;) {
    const hit = runsInto(grown, live, gone, crossing, shop);
    if (!hit.length) return measure(grown, shop);
    for (const piece of hit) gone.add(piece);
    grown = together([grown, ...hit]);
  }
}
