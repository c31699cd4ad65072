import {
  add,
  applyMatrix,
  distance,
  multiplyQuats,
  type Quat,
  quatAbout,
  rotate,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import { freshIds, type Placement, placementMatrix, type SetOut } from './set-out.js';

/** Placements that move with the chosen ones: their groups, unless one member is asked for alone; none that is locked. */
export function movedTogether(
  { placements }: Pick<SetOut, 'placements'>,
  chosen: ReadonlySet<string>,
  { alone = false }: { alone?: boolean } = {},
): Placement[] {
  const groups = new Set(
    placements.flatMap(({ id, group }) => (chosen.has(id) && group !== null ? [group] : [])),
  );
  return placements.filter(
    ({ id, group, locked }) => !locked && (chosen.has(id) || (!alone && group !== null && groups.has(group))),
  );
}

/** Placements shifted, metres. */
export const shiftedBy = (placements: readonly Placement[], by: Readonly<Vec3>): Placement[] =>
  placements.map((each) => ({ ...each, position: add(each.position, by) }));

/** Placements turned together about an axis of the set-out through a place. Quarter turns are exact. */
export function placementsTurned(
  placements: readonly Placement[],
  about: Readonly<Vec3>,
  degrees: number,
  axis: 0 | 1 | 2,
): Placement[] {
  const turn = turnAbout(axis, degrees);
  return placements.map((each) => ({
    ...each,
    position: add(about, rotate(turn, subtract(each.position, about))).map(clean) as Vec3,
    rotation: multiplyQuats(turn, each.rotation),
  }));
}

/** As `placementsTurned`, about the upright axis. */
export const turnedUpright = (
  placements: readonly Placement[],
  about: Readonly<Vec3>,
  degrees: number,
): Placement[] => placementsTurned(placements, about, degrees, 1);

/**
 * Placements mirrored in the upright plane through a place, across x: each an instance of scale −1. What each is made
 * of is not changed; collision that a level mirrors so is turned inside out in some engines.
 */
export function mirroredAcross(placements: readonly Placement[], about: Readonly<Vec3>): Placement[] {
  return placements.map((each) => {
    const [x, y, z, w] = each.rotation;
    const { position } = each;
    // A turn seen in the mirror goes the other way about the axes in the mirror's plane.
    return {
      ...each,
      mirrored: !each.mirrored,
      position: [2 * about[0] - position[0], position[1], position[2]],
      rotation: [x, -y, -z, w].map((v) => v || 0) as Quat,
    };
  });
}

/** Copies of placements along a run, each so far from the one before, metres; the first stands one step on. */
export function repeatedAlong(
  setOut: Pick<SetOut, 'placements'>,
  placements: readonly Placement[],
  step: Readonly<Vec3>,
  count: number,
): Placement[] {
  const ids = freshIds(setOut, placements.length * count);
  return Array.from({ length: count }, (_, i) =>
    shiftedBy(placements, scaled(step, i + 1)).map((each, k) => ({
      ...each,
      id: ids[i * placements.length + k]!,
      locked: false,
      group: each.group === null ? null : `${each.group}-${ids[i * placements.length]}`.slice(0, 40),
    })),
  ).flat();
}

/** Another piece, or another version of it, in the place of what stands there: pivots, turns, groups, materials stay. */
export const swapped = (
  placements: readonly Placement[],
  { piece, version = null }: { piece: number; version?: number | null },
): Placement[] =>
  placements.map((each) =>
    each.piece === piece && each.version === version ? each : { ...each, piece, version },
  );

type Frame = Parameters<typeof placementMatrix>[1];

/** How far a place of a piece moves when another, with a pivot of its own, stands for it; metres. */
export function jumpBetween(
  placement: Placement,
  before: { pivot: Frame; place: Vec3 },
  after: { pivot: Frame; place: Vec3 },
): number {
  return distance(
    applyMatrix(placementMatrix(placement, before.pivot), before.place),
    applyMatrix(placementMatrix(placement, after.pivot), after.place),
  );
}

/** A turn about an axis of the set-out; quarters to the last bit. */
function turnAbout(axis: 0 | 1 | 2, degrees: number): Quat {
  const ways: Vec3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const quarters = degrees / 90;
  if (!Number.isInteger(quarters)) return quatAbout(ways[axis]!, (degrees * Math.PI) / 180);
  const half = Math.SQRT1_2;
  const [sine, cosine] = [
    [0, 1],
    [half, half],
    [1, 0],
    [half, -half],
  ][((quarters % 4) + 4) % 4]!;
  const turn: Quat = [0, 0, 0, cosine!];
  turn[axis] = sine!;
  return turn;
}

/** What a quarter turn leaves of an exact number. */
const clean = (v: number): number => {
  const near = Math.round(v * 1e9) / 1e9;
  return Math.abs(v - near) < 1e-12 ? near || 0 : v;
};
