import { centreOf, diagonalOf, type Quat, type Vec3 } from '@yard-brace/core';
import type { TrialShape } from '../walk/trial-world.js';
import { BodyWorld, boundsOfSet, type Played } from './body-world.js';

export interface DropInput {
  shapes: readonly TrialShape[];
  /** kilograms a cubic metre. Default 700 */
  density?: number;
}

/** How a piece fell on one of its sides. */
export interface Dropped {
  /** which of its own sides was down: "−y" is as it stands */
  side: DropSide;
  /** seconds until it lay still; null when it never did */
  settled: number | null;
  /** degrees that it tipped from how it was dropped */
  tipped: number;
  /** metres that it went aside */
  rolled: number;
  played: Played;
}

export const DROP_SIDES = ['−y', '+y', '−x', '+x', '−z', '+z'] as const;
export type DropSide = (typeof DROP_SIDES)[number];

const across = Math.SQRT1_2;
const TURNS: Record<DropSide, Quat> = {
  '−y': [0, 0, 0, 1],
  '+y': [1, 0, 0, 0],
  '−x': [0, 0, across, across],
  '+x': [0, 0, -across, across],
  '−z': [-across, 0, 0, across],
  '+z': [across, 0, 0, across],
};
const DENSITY = 700;
const STEPS = 480;
/** Slower than this, metres and radians a second, for half a second it lies still. */
const STILL = 0.02;
const STILL_STEPS = 30;
/** It falls from so many of its diagonals. */
const FALL_SHARE = 0.15;

/** The piece itself as a body, dropped on one of its sides: whether it settles, tips, rolls off or goes on shaking. */
export async function drop({ shapes, density = DENSITY }: DropInput, side: DropSide): Promise<Dropped> {
  const bounds = boundsOfSet(shapes);
  const size = diagonalOf(bounds);
  const middle = centreOf(bounds);
  const reach = size * 2;
  const world = await BodyWorld.of([], { min: [-reach, 0, -reach], max: [reach, reach, reach] }, 0);
  const turned = TURNS[side];
  const solids = shapes.flatMap(({ colliders }) => colliders).filter(({ kind }) => kind !== 'surface');
  const colliders = world.collidersAbout(solids, middle).map((each) => each.setDensity(density));
  const half = size / 2;
  const from: Vec3 = [0, half + size * FALL_SHARE, 0];
  const body = world.add(world.rapier.RigidBodyDesc.dynamic().setCcdEnabled(true), colliders, {
    at: from,
    turned,
  });
  let still = 0;
  let settled: number | null = null;
  for (let step = 0; step < STEPS && settled === null; step++) {
    world.step();
    const [v, w] = [body.linvel(), body.angvel()];
    const rests =
      Math.hypot(v.x, v.y, v.z) < STILL * Math.max(1, size) && Math.hypot(w.x, w.y, w.z) < STILL * 2;
    still = rests && step > 20 ? still + 1 : 0;
    if (still >= STILL_STEPS) settled = (step + 1 - STILL_STEPS) / 60;
  }
  const { at, turned: now } = world.poseOf(body);
  const played = world.played();
  world.free();
  return {
    side,
    settled,
    tipped: degreesBetween(turned, now),
    rolled: Math.hypot(at[0] - from[0], at[2] - from[2]),
    played,
  };
}

const degreesBetween = (a: Readonly<Quat>, b: Readonly<Quat>): number =>
  (2 * Math.acos(Math.min(1, Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3]))) * 180) /
  Math.PI;
