import { convexHull, hullShape } from '../hull/index.js';
import { add, scaled } from '../math/index.js';
import { type HullShape, prismGrowth } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';
import { type TurnedProfile, turnedProfile } from './turned-profile.js';

export interface StackedRoundsOptions {
  /** of each round. Default 12 */
  sides?: number;
  /** rounds on each other, at most. Default 8 */
  maxRounds?: number;
  /** corners of one round, at most. Default 64 */
  maxCorners?: number;
  /** fewer rounds are taken where none is wider than the body by more than this, metres */
  toleranceMetres: number;
}

/** Rings are left out that matter less than this share of the tolerance. */
const RING_SHARE = 0.1;

interface Ring {
  height: number;
  radius: number;
}

/**
 * A turned body (post, bollard, buoy, pot) as rounds on each other: each is convex, with rings where its outline bends,
 * and they meet at waists. As few as lie within the tolerance, or else those that lie closest.
 *
 * @throws DecomposeError when the faces are not round about any axis
 */
export function stackedRounds(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  { sides = 12, maxRounds = 8, maxCorners = 64, toleranceMetres }: StackedRoundsOptions,
): HullShape[] {
  const profile = turnedProfile(positions, indices);
  if (!profile)
    throw new DecomposeError(
      'These faces are not round about an axis; choose those of a post, a pot or a wheel.',
    );
  const ringsOf = (from: number, to: number) =>
    withFewRings(
      outlineOf(profile, from, to),
      (apexes) => Math.max(2, Math.floor((maxCorners - apexes) / sides) + apexes),
      toleranceMetres * RING_SHARE,
    );
  const { heights } = profile;
  const last = heights.length - 1;
  // A round that is too flat to be felt for itself brings a thin disc and no more.
  const least = Math.min(toleranceMetres / 4, (heights[last]! - heights[0]!) / (2 * maxRounds));
  const { stops } = fewest(last, maxRounds, toleranceMetres, (from, to) =>
    heights[to]! - heights[from]! < least
      ? Infinity
      : Math.max(gapBetween(profile, from, to), ringsOf(from, to).loss),
  );
  return stops.slice(1).flatMap((to, i) => {
    const found = convexHull(pointsOf(profile, ringsOf(stops[i]!, to).rings, sides));
    return found.span === 'solid' ? [hullShape(found.hull)] : [];
  });
}

/**
 * Stops from 0 to a last one such that the dearest stretch between two is as cheap as can be: as few stretches as lie
 * within a tolerance, or else so many at most. (Dynamic programming: what is best up to a stop is best before it.)
 */
function fewest(
  last: number,
  maxStretches: number,
  tolerance: number,
  price: (from: number, to: number) => number,
): { stops: number[]; dearest: number } {
  const prices = Array.from({ length: last + 1 }, (_, to) =>
    Array.from({ length: to }, (_, from) => price(from, to)),
  );
  let dearest = prices.map((_, to) => (to === 0 ? 0 : Infinity));
  const befores: number[][] = [];
  for (let count = 1; count <= Math.min(maxStretches, last); count++) {
    const next = prices.map(() => Infinity);
    const before = prices.map(() => 0);
    for (let to = 1; to <= last; to++)
      for (let from = 0; from < to; from++) {
        const most = Math.max(dearest[from]!, prices[to]![from]!);
        if (most >= next[to]! - 1e-12) continue;
        next[to] = most;
        before[to] = from;
      }
    dearest = next;
    befores.push(before);
    if (dearest[last]! <= tolerance) break;
  }
  const stops = [last];
  for (let count = befores.length - 1; stops[0]! > 0; count--) stops.unshift(befores[count]![stops[0]!]!);
  return { stops, dearest: dearest[last]! };
}

/** The outline of a round between two heights: the concave one over the profile, in order of height. */
function outlineOf({ heights, above, below }: TurnedProfile, from: number, to: number): Ring[] {
  const outline: Ring[] = [];
  const put = (ring: Ring) => {
    while (outline.length > 1) {
      const [a, b] = [outline.at(-2)!, outline.at(-1)!];
      const turn =
        (b.height - a.height) * (ring.radius - a.radius) - (b.radius - a.radius) * (ring.height - a.height);
      if (turn < 0) break;
      outline.pop();
    }
    if (outline.length === 1 && outline[0]!.height === ring.height) {
      outline[0]!.radius = Math.max(outline[0]!.radius, ring.radius);
      return;
    }
    outline.push(ring);
  };
  for (let k = from; k < to; k++) {
    put({ height: heights[k]!, radius: above[k]! });
    put({ height: heights[k + 1]!, radius: below[k]! });
  }
  return outline;
}

/** The most that a round between two heights is wider than the body, metres. */
function gapBetween(profile: TurnedProfile, from: number, to: number): number {
  const { heights, above, below } = profile;
  const outline = outlineOf(profile, from, to);
  let ring = 0;
  const radiusAt = (height: number) => {
    while (ring + 2 < outline.length && outline[ring + 1]!.height <= height) ring++;
    const [a, b] = [outline[ring]!, outline[ring + 1] ?? outline[ring]!];
    const rise = b.height - a.height;
    return rise > 0 ? a.radius + ((b.radius - a.radius) * (height - a.height)) / rise : b.radius;
  };
  let most = 0;
  for (let k = from; k < to; k++)
    most = Math.max(most, radiusAt(heights[k]!) - above[k]!, radiusAt(heights[k + 1]!) - below[k]!);
  return most;
}

/** So many of the rings, the first and the last among them, that what lies outside the chords between them is least. */
function withFewRings(
  rings: readonly Ring[],
  most: (apexes: number) => number,
  tolerance: number,
): { rings: Ring[]; loss: number } {
  const between = (from: number, to: number) => {
    const [a, c] = [rings[from]!, rings[to]!];
    const slope = (c.radius - a.radius) / (c.height - a.height);
    return Math.max(
      0,
      ...rings.slice(from + 1, to).map((b) => b.radius - a.radius - slope * (b.height - a.height)),
    );
  };
  const apexes = [rings[0]!, rings.at(-1)!].filter(({ radius }) => radius === 0).length;
  const { stops, dearest } = fewest(rings.length - 1, most(apexes) - 1, tolerance, between);
  return { rings: stops.map((i) => rings[i]!), loss: dearest };
}

/** Rings of so many corners as wide as the circle has area: corners stand out as much as sides fall short. */
function pointsOf({ origin, axes }: TurnedProfile, rings: readonly Ring[], sides: number): number[] {
  const grow = prismGrowth(sides);
  return rings.flatMap(({ height, radius }) =>
    Array.from({ length: radius > 0 ? sides : 1 }, (_, i) => {
      const angle = ((i + 0.5) / sides) * 2 * Math.PI;
      const [x, z] = [Math.cos(angle) * radius * grow, Math.sin(angle) * radius * grow];
      const from = add(origin, scaled(axes[1], height));
      return add(add(from, scaled(axes[0], x)), scaled(axes[2], z));
    }).flat(),
  );
}
