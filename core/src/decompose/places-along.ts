import { distance, quatAbout, subtract, type Vec3 } from '../math/index.js';
import { after, type Isometry, shifted, turnedAbout } from '../shape/index.js';
import { measured, type MeasuredLine, placeAt, wayAt } from './along-line.js';

/** Places of a line that are tried as the nearest one. */
const TRIED = 2000;
/** A way that is steeper than this has no direction seen from above. */
const STEEP_COSINE = 0.1;

/**
 * Where copies of what stands beside a line stand, spread evenly along the rest of it: each upright, and turned as the
 * line turns seen from above. On an open line they go towards the end that is farther; a closed one they go round.
 *
 * @param at where the first one stands, metres
 */
export function placesAlong(
  places: readonly Vec3[],
  { closed, at, count }: { closed: boolean; at: Readonly<Vec3>; count: number },
): Isometry[] {
  const line = measured(places, closed);
  const start = nearestOn(line, at);
  const ahead = closed ? line.length : line.length - start;
  const rest = closed ? (line.length * count) / (count + 1) : ahead >= start ? ahead : -start;
  const from = placeAt(line, start);
  return Array.from({ length: count }, (_, i) => {
    const here = start + (rest * (i + 1)) / count;
    const turn = yawOf(wayAt(line, here)) - yawOf(wayAt(line, start));
    return after(turnedAbout(from, quatAbout([0, 1, 0], turn)), shifted(subtract(placeAt(line, here), from)));
  });
}

function nearestOn(line: MeasuredLine, at: Readonly<Vec3>): number {
  let best = 0;
  for (let i = 0; i <= TRIED; i++) {
    const s = (line.length * i) / TRIED;
    if (distance(placeAt(line, s), at) < distance(placeAt(line, best), at)) best = s;
  }
  return best;
}

const yawOf = ([x, , z]: Vec3): number => (Math.hypot(x, z) < STEEP_COSINE ? 0 : Math.atan2(-z, x));
