import type { Distance } from '../hull/index.js';
import type { Vec3 } from '../math/index.js';
import type { Deviation, Standing } from './comparison.js';
import type { Samples, SurfacePlaces } from './samples.js';

/** What is known of one shape: computed once, used in every set that has it. */
export interface Measured {
  distance: Distance;
  /** so that what it holds at all corners it holds between them; a surface does not */
  convex: boolean;
  low: Vec3;
  high: Vec3;
  /** for each axis, [2 * rays]: where a ray is within; NaN where it misses */
  spans: Float64Array[];
  /** on its surface, outside the art, with the distance to it */
  samples: Samples;
  /** [n]: metres to the art, 0 inside it; NaN until asked */
  off: Float64Array;
  /** [9t] triangles of its surface */
  triangles: Float64Array;
  /** cubic metres of it beyond the art's bounds, where no rays go */
  beyond: number;
  /** how much of it is empty, and how far off all art it is: once that was asked for */
  filled?: Pick<Standing['shapes'][number], 'overfill' | 'away'>;
  /** its part of the surface of the last set it was in; holds while the same shapes are about it */
  outer?: {
    about: readonly { measured: Measured; earlier: boolean }[];
    places: SurfacePlaces;
    deviation: Deviation;
  };
}

/** The distance function of the shape that covers a point deepest. */
export function covering(
  measured: readonly Measured[],
  x: number,
  y: number,
  z: number,
): Distance | undefined {
  let deepest = 0;
  let found: Distance | undefined;
  for (const { distance, low, high } of measured) {
    if (x < low[0] || x > high[0] || y < low[1] || y > high[1] || z < low[2] || z > high[2]) continue;
    const here = distance(x, y, z);
    if (here >= deepest) continue;
    deepest = here;
    found = distance;
  }
  return found;
}

interface Nearest {
  /** metres outside the shape */
  off: number;
  shape: Measured | undefined;
}

/** Hot loops ask for every corner of the art: the answer is written into this one object. */
const answer: Nearest = { off: 0, shape: undefined };

/**
 * The nearest shape, and metres outside it, when it is nearer than `within`. What lies in one is not looked for in
 * others, unless for the deepest: then it is minus the depth in that. The answer holds until the next question.
 */
export function nearest(
  measured: readonly Measured[],
  x: number,
  y: number,
  z: number,
  deepest = false,
  within = Infinity,
): Readonly<Nearest> {
  answer.off = within;
  answer.shape = undefined;
  // Most places lie in a shape: those whose boxes hold the place come first, then the nearest box.
  let first: Measured | undefined;
  let firstOff = Infinity;
  for (const one of measured) {
    const box = boxOffSquared(one, x, y, z);
    if (box === 0) {
      ask(one, x, y, z);
      if (answer.off <= 0 && !deepest) return answer;
    } else if (box < firstOff) {
      first = one;
      firstOff = box;
    }
  }
  // A shape whose box is farther off than what was found cannot be nearer.
  if (!first || answer.off <= 0 || firstOff >= answer.off * answer.off) return answer;
  ask(first, x, y, z);
  for (const one of measured) {
    const box = boxOffSquared(one, x, y, z);
    if (box > 0 && one !== first && box < answer.off * answer.off) ask(one, x, y, z);
  }
  return answer;
}

function ask(one: Measured, x: number, y: number, z: number): void {
  const here = one.distance(x, y, z, answer.off);
  if (here >= answer.off) return;
  answer.off = here;
  answer.shape = one;
}

function boxOffSquared(
  { low, high }: Pick<Measured, 'low' | 'high'>,
  x: number,
  y: number,
  z: number,
): number {
  const bx = x < low[0] ? low[0] - x : x > high[0] ? x - high[0] : 0;
  const by = y < low[1] ? low[1] - y : y > high[1] ? y - high[1] : 0;
  const bz = z < low[2] ? low[2] - z : z > high[2] ? z - high[2] : 0;
  return bx * bx + by * by + bz * bz;
}

/** Metres from the bounds of a shape; 0 within. */
export const boxOff = (shape: Pick<Measured, 'low' | 'high'>, [x, y, z]: Readonly<Vec3>): number =>
  Math.sqrt(boxOffSquared(shape, x, y, z));
