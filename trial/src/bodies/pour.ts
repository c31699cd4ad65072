import { type Bounds, isEmpty, type Vec3 } from '@yard-brace/core';
import type { TrialShape } from '../walk/trial-world.js';
import { BodyWorld, type Played } from './body-world.js';

export interface PourInput {
  shapes: readonly TrialShape[];
  /** of the art: the container, metres */
  container: Bounds;
  /** how many balls. Default 100 */
  balls?: number;
}

export interface Poured {
  balls: number;
  inside: number;
  /** where balls left: the place beside or under the container, the first first */
  leaks: Vec3[];
  /** metres */
  radius: number;
  played: Played;
}

/** A ball is this share of the container's smaller side, and no more than that of its height. */
const BALL_SHARE = 0.03;
const BALL_HEIGHT_SHARE = 0.2;
/** Balls fall from the middle part of the opening. */
const POURED_SHARE = 0.6;
const STEPS = 420;
/** The golden ratio, less one. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;
/** Steps between two layers of balls. */
const LAYER_STEPS = 12;

/** Small balls poured into a container from above: how many stay in it, and where others leave. */
export async function pour({ shapes, container, balls = 100 }: PourInput): Promise<Poured> {
  const { min, max } = container;
  const [wide, high, deep] = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
  if (isEmpty(container) || Math.min(wide, deep) <= 0)
    return { balls, inside: 0, leaks: [], radius: 0, played: NOTHING };
  const radius = Math.min(BALL_SHARE * Math.min(wide, deep), Math.max(BALL_HEIGHT_SHARE * high, 1e-6));
  // It is held over the ground: what falls through is told from what stays in.
  const ground = min[1] - Math.max(high, 6 * radius);
  const world = await BodyWorld.of(shapes, { min: [min[0], ground, min[2]], max }, ground);
  const { ColliderDesc, RigidBodyDesc } = world.rapier;
  const across = Math.max(1, Math.ceil(Math.sqrt(balls / 4)));
  const leaks: (Vec3 | undefined)[] = Array<undefined>(balls).fill(undefined);
  const isIn = ([x, y, z]: Readonly<Vec3>): boolean =>
    x > min[0] && x < max[0] && z > min[2] && z < max[2] && y > min[1] - radius;
  // Each ball stands aside of its place in its layer, by a sequence that repeats nowhere: none falls straight on another.
  const place = (i: number, aside: number, low: number, side: number) =>
    low + side * (0.5 + POURED_SHARE * ((i + 0.25 + 0.5 * (aside % 1)) / across - 0.5));
  for (let i = 0; i < balls; i++) {
    const k = i % (across * across);
    const at: Vec3 = [
      place(k % across, i * GOLDEN, min[0], wide),
      max[1] + 3 * radius,
      place(Math.floor(k / across), i * GOLDEN * GOLDEN, min[2], deep),
    ];
    world.add(
      RigidBodyDesc.dynamic().setCcdEnabled(true).setEnabled(false),
      [ColliderDesc.ball(radius).setRestitution(0.1)],
      { at, turned: [0, 0, 0, 1] },
    );
  }
  for (let step = 0; step < STEPS; step++) {
    const layer = Math.floor(step / LAYER_STEPS) * across * across;
    if (step % LAYER_STEPS === 0)
      for (const body of world.bodies.slice(layer, layer + across * across)) body.setEnabled(true);
    world.step();
    world.bodies.forEach((body, i) => {
      if (leaks[i]) return;
      const { at } = world.poseOf(body);
      if (at[1] < max[1] && !isIn(at)) leaks[i] = at;
    });
  }
  // What lies on the rim or on a lid has not left, and is not inside either.
  const inside = world.bodies.filter((body, i) => !leaks[i] && world.poseOf(body).at[1] < max[1]).length;
  const played = world.played();
  world.free();
  return { balls, inside, leaks: leaks.filter((at) => at !== undefined), radius, played };
}

const NOTHING: Played = { bodies: 0, frames: 0, poses: new Float32Array(), origin: [0, 0, 0] };
