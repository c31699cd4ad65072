import { boundsOf, cross, diagonalOf, dot, scaled, subtract, type Vec3 } from '../math/index.js';
import { convexHull, volumeOfHullOf } from '../hull/index.js';
import {
  ENOUGH_CORNERS,
  type ConvexPart,
  convexPartOf,
  reachesInto,
  type DecompositionContext,
} from './convex-part.js';
import { type CutPlane, cutFragment, type Fragment, fragmentBounds, planeThrough } from './fragment.js';
import type { State } from './hand-out.js';
import type { Mirror } from './mirror.js';
import { standOffOf } from './misfit.js';
import { hullStandOff } from './stand-off.js';
import { placeAlong, type TurningAxis, turningAxis } from './turning-axis.js';

/** Bands that the height is cut into, at most. */
const MAX_BANDS = 12;
const MAX_HEIGHTS = 48;
/** Bands are found on a wedge so wide, as a share of the turn. */
const BAND_WEDGE = 8;
/** Wedges of a band that are priced; the counts between are told from those on both sides. */
const PRICED = [1, 2, 3, 4, 6, 8, 12, 16, 24];
/** Counts of shapes that a turned body is cut into. */
const COUNTS = [1, 2, 3, 4, 5, 6, 8, 10, 12, 14, 16, 20, 24, 28, 32, 40, 48, 56, 64];
/** A further shape has to take away this share of what counts. */
const WORTH = 0.01;

/** Corners of a hull that are enough to tell how far a wedge stands off. */
const ROUGH_CORNERS = 24;
/** A stand-off that is larger by this share is hardly more. */
const HARDLY = 0.1;

/** A band between two heights, cut into equal wedges. */
interface Band {
  from: number;
  to: number;
  wedges: number;
}

/**
 * A turned body (pot, bowl, horn, post, buoy) as bands along its axis, each in equal wedges, for each useful count the
 * bands and wedges that fill least in all, or for an agent stand off least (dynamic programming over heights and
 * counts); null when the piece is not round about an axis, is as good as convex, or a clearance is in its way.
 */
export function turnedStates(
  piece: ConvexPart,
  maxShapes: number,
  enough: number,
  mirror: Mirror | null,
  context: DecompositionContext,
): State[] | null {
  const { fragment } = piece;
  if (!fragment || !piece.hull || piece.volume <= 0 || piece.standOff <= enough) return null;
  const found = turningAxis(fragment);
  if (!found) return null;
  const axis = mirror ? fromPlane(found, mirror.cut, fragment) : found;
  const eps = diagonalOf(fragmentBounds(fragment)) * 1e-8;
  const own = bandHeights(fragment, axis, eps, context);
  const heights = mirror && mirror.sideOf(piece.points) === 0 ? evenHeights(own, axis, mirror.cut) : own;
  const prices = bandPrices(fragment, axis, heights, maxShapes, eps, context);
  const allowed = wedgeCounts(axis, maxShapes);
  const chooses = (context.agentDetail > 0 ? [true, false] : [false]).map((felt) =>
    cheapestBands(prices, allowed, maxShapes, felt),
  );
  const made = new Map<string, ConvexPart[] | null>();
  const partsOf = ({ from, to, wedges }: Band): ConvexPart[] | null => {
    const key = `${from},${to},${wedges}`;
    let parts = made.get(key);
    if (parts === undefined) {
      const band = between(fragment, axis, heights[from]!, heights[to]!, eps);
      const cut = band && wedgesOf(band, axis, wedges, eps);
      parts = cut && partsAlike(cut, piece.group, context);
      if (parts?.some((part) => !part.hull)) parts = null;
      made.set(key, parts);
    }
    return parts;
  };
  const states: State[] = [[piece]];
  let [off, filled] = [piece.standOff, piece.hullVolume];
  for (const count of new Set([...COUNTS.filter((n) => n < maxShapes), maxShapes])) {
    if (count === 1) continue;
    const bands = chooses.map((choose) => choose(count)).filter((some) => some !== null);
    const lists = bands.map((some) => some.map(partsOf));
    if (lists.some((some) => some.includes(null))) return null;
    const state = preferred(lists.map((some) => some.flatMap((parts) => parts!)));
    if (!state) continue;
    const [itsOff, itsVolume] = [standOffOf(state), state.reduce((sum, part) => sum + part.hullVolume, 0)];
    const nearer = context.agentDetail > 0 && itsOff <= off * (1 - WORTH);
    if (!nearer && itsVolume > filled * (1 - WORTH)) continue;
    if (state.some((part) => reachesInto(part, context))) return null;
    off = Math.min(off, itsOff);
    filled = Math.min(filled, itsVolume);
    states.push(state);
    if (itsOff <= enough) break;
  }
  return states.length > 1 ? states : null;
}

/** Wedges of one band: those as large as one before stand off as far. */
function partsAlike(wedges: readonly Fragment[], group: number, context: DecompositionContext): ConvexPart[] {
  const parts: ConvexPart[] = [];
  for (const wedge of wedges) parts.push(convexPartOf(wedge, group, context, parts));
  return parts;
}

/** Of the state that stands off least and the one that fills least the latter, when it stands off hardly more. */
function preferred(states: readonly State[]): State | undefined {
  const near = states[0];
  const lean = states.at(-1);
  return near && standOffOf(lean!) > standOffOf(near) * (1 + HARDLY) ? near : lean;
}

const opposite = ({ nx, ny, nz, d }: CutPlane): CutPlane => ({ nx: -nx, ny: -ny, nz: -nz, d: -d });

/** What runs along the plane that art is mirrored over, or straight through it, does so to within this cosine. */
const ALONG_PLANE = 1e-6;

/** An axis that all but lies in the plane that art is mirrored over moved into it: wedges on either side are images. */
function fromPlane(axis: TurningAxis, { nx, ny, nz, d }: CutPlane, { points }: Fragment): TurningAxis {
  const { middle, way, sides } = axis;
  const u = cross([nx, ny, nz], way);
  const off = dot(middle, [nx, ny, nz]) - d;
  if (Math.hypot(...u) < 1 - ALONG_PLANE || Math.abs(off) > diagonalOf(boundsOf(points)) * 1e-4) return axis;
  let meets = !sides;
  for (let i = 0; i < points.length && !meets; i += 3) {
    const ahead = placeAlong(points, i, middle, u);
    const aside = placeAlong(points, i, middle, [nx, ny, nz]);
    meets = ahead !== 0 && Math.abs(aside) < Math.abs(ahead) * 1e-4;
  }
  return {
    ...axis,
    middle: subtract(middle, scaled([nx, ny, nz], off)),
    u,
    v: cross(way, u),
    inFacet: !meets,
  };
}

/** Heights along an axis that goes straight through the plane: those on the near side, and their images. */
function evenHeights(
  heights: readonly number[],
  { middle, way }: TurningAxis,
  { nx, ny, nz, d }: CutPlane,
): number[] {
  const along = dot(way, [nx, ny, nz]);
  if (Math.abs(along) < 1 - ALONG_PLANE) return [...heights];
  const at = (d - dot(middle, [nx, ny, nz])) / along;
  const near = (heights.at(-1)! - heights[0]!) * 1e-4;
  const below = heights.filter((height) => height < at - near);
  const onPlane = heights.some((height) => Math.abs(height - at) <= near) ? [at] : [];
  return [...below, ...onPlane, ...below.map((height) => 2 * at - height).reverse()];
}

/** What of a fragment lies between two heights above the middle; null when nothing does. */
function between(
  fragment: Fragment,
  { middle, way }: TurningAxis,
  low: number,
  high: number,
  eps: number,
): Fragment | null {
  const above = cutFragment(fragment, opposite(planeThrough(middle, way, low)), eps)[0];
  return above && cutFragment(above, planeThrough(middle, way, high), eps)[0];
}

/** The plane through the axis at an angle; what lies before it, turning from u to v, is on its low side. */
function atAngle({ middle, u, v }: TurningAxis, angle: number): CutPlane {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return planeThrough(middle, [0, 1, 2].map((k) => v[k]! * c - u[k]! * s) as Vec3);
}

/** A band in equal wedges round the axis. */
function wedgesOf(band: Fragment, axis: TurningAxis, wedges: number, eps: number): Fragment[] {
  if (wedges === 1) return [band];
  const turn = (2 * Math.PI) / wedges;
  // Where facets meet: half a wedge from the middle of a facet, when a wedge has an odd number of them.
  const begin = axis.inFacet && (axis.sides / wedges) % 2 === 1 ? turn / 2 : 0;
  const out: Fragment[] = [];
  for (let i = 0; i < wedges; i++) {
    const from = cutFragment(band, opposite(atAngle(axis, begin + i * turn)), eps)[0];
    const part = from && wedges > 2 ? cutFragment(from, atAngle(axis, begin + (i + 1) * turn), eps)[0] : from;
    if (part) out.push(part);
  }
  return out;
}

/** Heights where a body is best cut across its axis: of a wedge of it the cuts that take away most, one after the other. */
function bandHeights(
  fragment: Fragment,
  axis: TurningAxis,
  eps: number,
  context: DecompositionContext,
): number[] {
  const { points: p } = fragment;
  // Each as it is: a plane a little beside a floor would leave a film of it on the other side.
  const all = Array.from({ length: p.length / 3 }, (_, i) => placeAlong(p, i * 3, axis.middle, axis.way))
    .sort((a, b) => a - b)
    .filter((height, i, sorted) => i === 0 || height - sorted[i - 1]! > eps * 100);
  const step = Math.max(1, all.length / MAX_HEIGHTS);
  const tried = Array.from(
    { length: Math.min(all.length, MAX_HEIGHTS) },
    (_, i) => all[Math.floor(i * step)]!,
  );
  const ends: [number, number] = [all[0]! - eps * 10, all.at(-1)! + eps * 10];
  const half = cutFragment(fragment, opposite(atAngle(axis, 0)), eps)[0];
  const wedge = half && cutFragment(half, atAngle(axis, (2 * Math.PI) / BAND_WEDGE), eps)[0];
  if (!wedge) return ends;
  const volume = (part: Fragment, enough?: number) => volumeOfHullOf(part.points, ENOUGH_CORNERS, enough);
  interface Piece {
    part: Fragment;
    volume: number;
    best?: { gain: number; height: number; low: Fragment; high: Fragment } | null;
  }
  const bestOf = (piece: Piece) => {
    if (piece.best !== undefined) return piece.best;
    piece.best = null;
    for (const height of tried) {
      context.progress(-1);
      const [low, high] = cutFragment(piece.part, planeThrough(axis.middle, axis.way, height), eps);
      if (!low || !high) continue;
      // Both together have to fill less than this, else the best so far stays.
      const enough: number = piece.volume - (piece.best?.gain ?? piece.volume * 1e-3);
      const below = volume(low, enough);
      if (below >= enough) continue;
      const both = below + volume(high, enough - below);
      if (both < enough) piece.best = { gain: piece.volume - both, height, low, high };
    }
    return piece.best;
  };
  const pieces: Piece[] = [{ part: wedge, volume: volume(wedge) }];
  const inner: number[] = [];
  while (pieces.length < MAX_BANDS) {
    let at = -1;
    pieces.forEach((piece, i) => {
      if (bestOf(piece) && (at < 0 || bestOf(piece)!.gain > bestOf(pieces[at]!)!.gain)) at = i;
    });
    if (at < 0) break;
    const { height, low, high } = bestOf(pieces[at]!)!;
    inner.push(height);
    pieces.splice(at, 1, { part: low, volume: volume(low) }, { part: high, volume: volume(high) });
  }
  return [ends[0], ...inner.sort((a, b) => a - b), ends[1]];
}

/** What the wedges of a band cost, [wedges]: the volume of their hulls, and how far these stand off the art. */
interface WedgePrices {
  volumes: Float64Array;
  standOffs: Float64Array;
}

/** The prices of every band between two heights, [from][to]. */
function bandPrices(
  fragment: Fragment,
  axis: TurningAxis,
  heights: readonly number[],
  maxShapes: number,
  eps: number,
  context: DecompositionContext,
): WedgePrices[][] {
  const last = heights.length - 1;
  const prices: WedgePrices[][] = Array.from({ length: last }, () => []);
  for (let from = 0; from < last; from++)
    for (let to = from + 1; to <= last; to++) {
      context.progress(-1);
      const band = between(fragment, axis, heights[from]!, heights[to]!, eps);
      prices[from]![to] = wedgePrices(band, axis, maxShapes, eps, context);
    }
  return prices;
}

/**
 * For a count of shapes the bands, and how many wedges each is cut into, that cost least: what their hulls fill together,
 * or where it is `felt` how far the worst of them stands off.
 */
function cheapestBands(
  prices: readonly WedgePrices[][],
  allowed: readonly number[],
  maxShapes: number,
  felt: boolean,
): (count: number) => Band[] | null {
  interface Best {
    cost: number;
    filled: number;
    band: Band | null;
    before: Best | null;
  }
  const beats = (cost: number, filled: number, best: Best | null) =>
    !best ||
    cost < best.cost * (1 - 1e-9) ||
    (cost <= best.cost * (1 + 1e-9) && filled < best.filled * (1 - 1e-9));
  // best[to][count]: everything below height `to` in so many shapes.
  const best: (Best | null)[][] = [new Array<Best | null>(maxShapes + 1).fill(null)];
  best[0]![0] = { cost: 0, filled: 0, band: null, before: null };
  for (let to = 1; to <= prices.length; to++) {
    const row = new Array<Best | null>(maxShapes + 1).fill(null);
    for (let count = 1; count <= maxShapes; count++)
      for (let from = 0; from < to; from++)
        for (const wedges of allowed) {
          if (wedges > count) break;
          const before = best[from]![count - wedges];
          if (!before) continue;
          const { volumes, standOffs } = prices[from]![to]!;
          const filled = before.filled + volumes[wedges]!;
          const cost = felt ? Math.max(before.cost, standOffs[wedges]!) : filled;
          if (beats(cost, filled, row[count]!))
            row[count] = { cost, filled, band: { from, to, wedges }, before };
        }
    best.push(row);
  }
  return (count) => {
    const found = best.at(-1)![count];
    if (!found) return null;
    const bands: Band[] = [];
    for (let at: Best | null = found; at?.band; at = at.before) bands.unshift(at.band);
    return bands;
  };
}

/** Counts of wedges whose joints lie where facets meet; where those are too few to choose from or uneven, any. */
function wedgeCounts({ sides }: TurningAxis, most: number): number[] {
  const all = Array.from({ length: most }, (_, i) => i + 1);
  const even = all.filter((n) => sides % n === 0);
  return sides && even.filter((n) => n >= 2 && n <= 12).length >= 3 ? even : all;
}

/** The prices of a band; some counts of wedges are measured, between them both fall with the square of the count. */
function wedgePrices(
  band: Fragment | null,
  axis: TurningAxis,
  maxShapes: number,
  eps: number,
  context: DecompositionContext,
): WedgePrices {
  const volumes = new Float64Array(maxShapes + 1);
  const standOffs = new Float64Array(maxShapes + 1);
  let part = band;
  let before = 0;
  for (const wedges of PRICED) {
    if (!part || before >= maxShapes) break;
    if (wedges > 1) {
      const plane = wedges === 2 ? opposite(atAngle(axis, 0)) : atAngle(axis, (2 * Math.PI) / wedges);
      part = cutFragment(part, plane, eps)[0];
    }
    fill(volumes, before, wedges, part ? volumeOfHullOf(part.points, ENOUGH_CORNERS) * wedges : 0);
    if (context.agentDetail > 0) fill(standOffs, before, wedges, part ? standOffOfPart(part, context) : 0);
    before = wedges;
  }
  // More wedges than were priced count as many as that: less cannot be promised.
  volumes.fill(volumes[before] ?? 0, before + 1);
  standOffs.fill(standOffs[before] ?? 0, before + 1);
  return { volumes, standOffs };
}

/** Values after `before` up to `wedges`, where the value is `here`. */
function fill(values: Float64Array, before: number, wedges: number, here: number): void {
  for (let n = before + 1; n <= Math.min(wedges, values.length - 1); n++) {
    const share = before ? (1 / n ** 2 - 1 / wedges ** 2) / (1 / before ** 2 - 1 / wedges ** 2) : 0;
    values[n] = before ? here + (values[before]! - here) * share : here;
  }
}

/** How far the hull of a wedge stands off, roughly; half of what does not matter is told as nothing. */
function standOffOfPart({ points }: Fragment, context: DecompositionContext): number {
  const found = convexHull(points, { maxVertices: ROUGH_CORNERS });
  return found.span === 'solid' ? hullStandOff(found.hull, context, { least: context.agentDetail / 2 }) : 0;
}
