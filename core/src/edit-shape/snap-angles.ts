import { areaVector, axesAcross, dot, type Vec3 } from '../math/index.js';

/** Faces of art are told apart by direction in steps of this, degrees. */
const DIRECTION_STEP = 0.1;
/** Faces that lean out of the plane of turning by more than this say nothing of it: half a degree. */
const UPRIGHT_SINE = Math.sin(Math.PI / 360);
/** How much of the area of the commonest direction another one needs to count. */
const MIN_AREA_SHARE = 0.1;
/** Directions of the art that catch, at most. */
const MAX_DIRECTIONS = 8;

/** The angle of a direction about an axis, degrees, from `axesAcross`. */
export function angleAbout(axis: Readonly<Vec3>, direction: Readonly<Vec3>): number {
  const [first, second] = axesAcross(axis);
  return (Math.atan2(dot(direction, second), dot(direction, first)) * 180) / Math.PI;
}

/**
 * How the upright faces of art are turned about an axis, degrees from 0 to 90: those with the most area, each once.
 *
 * @param positions [3n]
 * @param indices [3t]
 */
export function anglesOfArt(
  axis: Readonly<Vec3>,
  { positions, indices }: { positions: ArrayLike<number>; indices: ArrayLike<number> },
): number[] {
  const areas = new Map<number, { area: number; sum: number }>();
  for (let f = 0; f < indices.length; f += 3) {
    const normal = areaVector(positions, indices[f]! * 3, indices[f + 1]! * 3, indices[f + 2]! * 3);
    const area = Math.hypot(...normal);
    if (!(area > 0) || Math.abs(dot(normal, axis)) > area * UPRIGHT_SINE) continue;
    const angle = within90(angleAbout(axis, normal));
    const step = Math.round(angle / DIRECTION_STEP);
    const known = areas.get(step) ?? { area: 0, sum: 0 };
    areas.set(step, { area: known.area + area, sum: known.sum + area * angle });
  }
  const common = [...areas.values()].sort((a, b) => b.area - a.area || a.sum - b.sum);
  return common
    .filter(({ area }) => area >= common[0]!.area * MIN_AREA_SHARE)
    .slice(0, MAX_DIRECTIONS)
    .map(({ area, sum }) => sum / area);
}

/** Faces are square to each other: every quarter turn is alike. Just below 90 is just below 0. */
function within90(degrees: number): number {
  const angle = ((degrees % 90) + 90) % 90;
  return angle > 90 - DIRECTION_STEP / 2 ? angle - 90 : angle;
}

/** An angle that something turned is caught at. */
export interface CaughtAngle {
  degrees: number;
  /** "square to the art", "15°" */
  name: string;
}

/**
 * The angle nearest to one that something is turned to, within reach: square to faces of the art first, then every so
 * many degrees. Null when there is none.
 */
export function caughtAngle(
  degrees: number,
  art: readonly number[],
  { within, every }: { within: number; every: number },
): CaughtAngle | null {
  let caught: CaughtAngle | null = null;
  for (const each of art) {
    const square = each + Math.round((degrees - each) / 90) * 90;
    const off = Math.abs(square - degrees);
    if (off <= within && (!caught || off < Math.abs(caught.degrees - degrees)))
      caught = { degrees: square, name: 'square to the art' };
  }
  if (caught || !(every > 0)) return caught;
  const step = Math.round(degrees / every) * every;
  return Math.abs(step - degrees) <= within ? { degrees: step, name: `every ${every}°` } : null;
}
