import { diagonalOf, type Vec3 } from '../math/index.js';
import { volumeOfHullOf } from '../hull/index.js';
import {
  ENOUGH_CORNERS,
  type ConvexPart,
  convexPartOf,
  reachesInto,
  type DecompositionContext,
} from './convex-part.js';
import { type CutPlane, cutFragment, type Fragment, fragmentBounds, planeThrough } from './fragment.js';
import type { State } from './hand-out.js';
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
/** A further shape has to take away this share of what is filled. */
const WORTH = 0.01;

/** A band between two heights, cut into equal wedges. */
interface Band {
  from: number;
  to: number;
  wedges: number;
}

/**
 * A turned body (pot, bowl, horn, post, buoy) as bands along its axis, each in equal wedges, for each useful count the
 * bands and wedges that fill least in all (dynamic programming over heights and counts); null when the piece is
 * not round about an axis, is as good as convex, or a clearance is in its way.
 */
export function turnedStates(
  piece: ConvexPart,
  maxShapes: number,
  enough: number,
  context: DecompositionContext,
): State[] | null {
  const { fragment } = piece;
  if (!fragment || !piece.hull || piece.volume <= 0 || piece.standOff <= enough) return null;
  const axis = turningAxis(fragment);
  if (!axis) return null;
  const eps = diagonalOf(fragmentBounds(fragment)) * 1e-8;
  const heights = bandHeights(fragment, axis, eps, context);
  const choose = cheapestBands(fragment, axis, heights, maxShapes, eps, context);
  const made = new Map<string, ConvexPart[] | null>();
  const partsOf = ({ from, to, wedges }: Band): ConvexPart[] | null => {
    const key = `${from},${to},${wedges}`;
    let parts = made.get(key);
    if (parts === undefined) {
      const band = between(fragment, axis, heights[from]!, heights[to]!, eps);
      parts =
        band && wedgesOf(band, axis, wedges, eps).map((part) => convexPartOf(part, piece.group, context));
      if (parts?.some((part) => !part.hull)) parts = null;
      made.set(key, parts);
    }
    return parts;
  };
  const states: State[] = [];
  let least = Infinity;
  for (const count of new Set([...COUNTS.filter((n) => n < maxShapes), maxShapes])) {
    const chosen = count === 1 ? null : choose(count);
    if (count > 1 && (!chosen || chosen.filled > least * (1 - WORTH))) continue;
    const lists = chosen ? chosen.bands.map(partsOf) : [[piece]];
    if (lists.includes(null)) return null;
    const state = lists.flatMap((parts) => parts!);
    if (state.some((part) => reachesInto(part, context))) {
      if (count === 1) continue;
      return null;
    }
    least = chosen ? chosen.filled : piece.hullVolume;
    states.push(state);
    if (Math.max(...state.map((part) => part.standOff)) <= enough) break;
  }
  return states.length > 1 ? states : null;
}

const opposite = ({ nx, ny, nz, d }: CutPlane): CutPlane => ({ nx: -nx, ny: -ny, nz: -nz, d: -d });

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
  const out: Fragment[] = [];
  for (let i = 0; i < wedges; i++) {
    const from = cutFragment(band, opposite(atAngle(axis, i * turn)), eps)[0];
    const part = from && wedges > 2 ? cutFragment(from, atAngle(axis, (i + 1) * turn), eps)[0] : from;
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
  const all = [
    ...new Set(
      Array.from({ length: p.length / 3 }, (_, i) =>
        rounded(placeAlong(p, i * 3, axis.middle, axis.way), eps * 100),
      ),
    ),
  ].sort((a, b) => a - b);
  const step = Math.max(1, all.length / MAX_HEIGHTS);
  const tried = Array.from(
    { length: Math.min(all.length, MAX_HEIGHTS) },
    (_, i) => all[Math.floor(i * step)]!,
  );
  const ends: [number, number] = [all[0]! - eps * 10, all.at(-1)! + eps * 10];
  const half = cutFragment(fragment, opposite(atAngle(axis, 0)), eps)[0];
  const wedge = half && cutFragment(half, atAngle(axis, (2 * Math.PI) / BAND_WEDGE), eps)[0];
  if (!wedge) return ends;
  const volume = (part: Fragment | null) => (part ? volumeOfHullOf(part.points, ENOUGH_CORNERS) : 0);
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
      const gain = piece.volume - volume(low) - volume(high);
      if (gain > (piece.best?.gain ?? piece.volume * 1e-3)) piece.best = { gain, height, low, high };
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

const rounded = (value: number, step: number): number => (step > 0 ? Math.round(value / step) * step : value);

/** For a count of shapes the bands, and how many wedges each is cut into, that fill least. */
function cheapestBands(
  fragment: Fragment,
  axis: TurningAxis,
  heights: readonly number[],
  maxShapes: number,
  eps: number,
  context: DecompositionContext,
): (count: number) => { bands: Band[]; filled: number } | null {
  const last = heights.length - 1;
  const allowed = wedgeCounts(axis, maxShapes);
  /** volumes of the hulls of all wedges of a band, [from][to][wedges] */
  const volumes: Float64Array[][] = Array.from({ length: last }, () => []);
  for (let from = 0; from < last; from++)
    for (let to = from + 1; to <= last; to++) {
      context.progress(-1);
      const band = between(fragment, axis, heights[from]!, heights[to]!, eps);
      volumes[from]![to] = band ? wedgeVolumes(band, axis, maxShapes, eps) : new Float64Array(maxShapes + 1);
    }
  interface Best {
    filled: number;
    band: Band | null;
    before: Best | null;
  }
  // best[to][count]: everything below height `to` in so many shapes.
  const best: (Best | null)[][] = [new Array<Best | null>(maxShapes + 1).fill(null)];
  best[0]![0] = { filled: 0, band: null, before: null };
  for (let to = 1; to <= last; to++) {
    const row = new Array<Best | null>(maxShapes + 1).fill(null);
    for (let count = 1; count <= maxShapes; count++)
      for (let from = 0; from < to; from++)
        for (const wedges of allowed) {
          if (wedges > count) break;
          const before = best[from]![count - wedges];
          if (!before) continue;
          const filled = before.filled + volumes[from]![to]![wedges]!;
          if (row[count] && filled >= row[count]!.filled * (1 - 1e-9)) continue;
          row[count] = { filled, band: { from, to, wedges }, before };
        }
    best.push(row);
  }
  return (count) => {
    const found = best[last]![count];
    if (!found) return null;
    const bands: Band[] = [];
    for (let at: Best | null = found; at?.band; at = at.before) bands.unshift(at.band);
    return { bands, filled: found.filled };
  };
}

/** Counts of wedges whose joints lie where facets meet; where those are few or uneven, any. */
function wedgeCounts({ sides }: TurningAxis, most: number): number[] {
  const all = Array.from({ length: most }, (_, i) => i + 1);
  const even = all.filter((n) => sides % n === 0);
  return sides && even.some((n) => n >= 5 && n <= 12) ? even : all;
}

/** [maxShapes + 1]: the volume of the hulls of all wedges of a band, by how many there are. What is filled falls with the square of the count. */
function wedgeVolumes(band: Fragment, axis: TurningAxis, maxShapes: number, eps: number): Float64Array {
  const volumes = new Float64Array(maxShapes + 1).fill(Infinity);
  let part: Fragment | null = band;
  let before = 0;
  for (const wedges of PRICED) {
    if (wedges > 1)
      part =
        part &&
        cutFragment(
          part,
          wedges === 2 ? opposite(atAngle(axis, 0)) : atAngle(axis, (2 * Math.PI) / wedges),
          eps,
        )[0];
    const here = part ? volumeOfHullOf(part.points, ENOUGH_CORNERS) * wedges : 0;
    for (let n = before + 1; n <= Math.min(wedges, maxShapes); n++) {
      const share = before ? (1 / n ** 2 - 1 / wedges ** 2) / (1 / before ** 2 - 1 / wedges ** 2) : 0;
      volumes[n] = before ? here + (volumes[before]! - here) * share : here;
    }
    if (wedges >= maxShapes) return volumes;
    before = wedges;
  }
  // More wedges than were priced count as many as that: less cannot be promised.
  for (let n = before + 1; n <= maxShapes; n++) volumes[n] = volumes[before]!;
  return volumes;
}
