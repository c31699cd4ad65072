import { type CollisionShape, convexHull, hullShape, type Vec3 } from '@yard-brace/core';
import type { TrialShape } from '../walk/trial-world.js';
import { BodyWorld, boundsOfSet, type Played } from './body-world.js';

/** What is rolled: lengths in metres. */
export type Roller =
  | { kind: 'ball'; radius: number }
  /** lying across its way; with sides it is a prism as targets without rounds get it */
  | { kind: 'barrel'; radius: number; length: number; sides: number | null };

export interface RollInput {
  shapes: readonly TrialShape[];
  /** height of the ground, metres */
  ground: number;
  roller: Roller;
  /** where it starts, on the ground or over something, and its level way */
  from: Vec3;
  way: readonly [number, number];
  /** metres a second. Default 2 */
  pace?: number;
  /** how far it is given time to get, metres. Default: as far as it gets in four seconds */
  length?: number;
}

export interface Rolled {
  /** metres that it got on */
  metres: number;
  /** how far its middle went up and down while it rolled on level ground, metres */
  wobble: number;
  /** changes of its pace within a step of more than a tenth of it */
  jolts: number;
  /** id of the shape that it came to lie at; null where none stopped it */
  stoppedBy: string | null;
  played: Played;
}

const STEPS = 240;
const MAX_STEPS = 3600;
const STEPS_A_SECOND = 60;
const JOLT_SHARE = 0.1;
/** The first steps it only comes to lie on the ground. */
const SETTLE_STEPS = 12;

/** A ball or a barrel rolled at a piece or over it: how far and how smoothly it gets. */
export async function roll({
  shapes,
  ground,
  roller,
  from,
  way,
  pace = 2,
  length = 0,
}: RollInput): Promise<Rolled> {
  const { radius } = roller;
  const set = boundsOfSet(shapes);
  const steps = Math.min(MAX_STEPS, Math.max(STEPS, Math.ceil((length / pace) * STEPS_A_SECOND)));
  const reach = Math.max(pace * 4, length) + 2 * radius;
  const min = from.map((v, k) => Math.min(v - (k === 1 ? 0 : reach), set.min[k]!)) as Vec3;
  const max = from.map((v, k) => Math.max(v + reach, set.max[k]!)) as Vec3;
  const world = await BodyWorld.of(shapes, { min, max }, ground);
  const { ColliderDesc, RigidBodyDesc } = world.rapier;
  const colliders =
    roller.kind === 'ball' ? [ColliderDesc.ball(radius)] : world.collidersAbout([barrel(roller)], [0, 0, 0]);
  // The axis lies across the way.
  const half = Math.atan2(-way[1], way[0]) / 2;
  const body = world.add(
    RigidBodyDesc.dynamic()
      .setCcdEnabled(true)
      .setLinvel(way[0] * pace, 0, way[1] * pace)
      .setAngvel({ x: (way[1] * pace) / radius, y: 0, z: (-way[0] * pace) / radius }),
    colliders,
    { at: [from[0], from[1] + radius, from[2]], turned: [0, Math.sin(half), 0, Math.cos(half)] },
  );
  const heights: number[] = [];
  let jolts = 0;
  let before = pace;
  for (let step = 0; step < steps; step++) {
    world.step();
    const { x, z } = body.linvel();
    const now = x * way[0] + z * way[1];
    if (step > SETTLE_STEPS && Math.abs(now - before) > JOLT_SHARE * pace) jolts++;
    before = now;
    const [px, py, pz] = world.poseOf(body).at;
    const beside =
      px < set.min[0] - radius ||
      px > set.max[0] + radius ||
      pz < set.min[2] - radius ||
      pz > set.max[2] + radius;
    if (step > SETTLE_STEPS && (beside || shapes.length === 0) && now > pace / 4) heights.push(py);
  }
  const { at } = world.poseOf(body);
  const metres = (at[0] - from[0]) * way[0] + (at[2] - from[2]) * way[1];
  const stopped = Math.abs(before) < pace * 0.05;
  const touched = stopped ? world.still.met({ at, halfHeight: radius * 1.02, radius: radius * 1.05 }) : -1;
  const played = world.played();
  world.free();
  return {
    metres,
    wobble: heights.length ? Math.max(...heights) - Math.min(...heights) : 0,
    jolts,
    stoppedBy: shapes[touched]?.id ?? null,
    played,
  };
}

/** A barrel about the middle, its axis along z. */
function barrel({ radius, length, sides }: Extract<Roller, { kind: 'barrel' }>): CollisionShape {
  const across = Math.SQRT1_2;
  if (sides === null)
    return {
      kind: 'cylinder',
      center: [0, 0, 0],
      rotation: [across, 0, 0, across],
      halfHeight: length / 2,
      bottomRadius: radius,
      topRadius: radius,
    };
  const points = [-1, 1].flatMap((end) =>
    Array.from({ length: sides }, (_, i) => {
      const angle = ((i + 0.5) / sides) * 2 * Math.PI;
      return [radius * Math.sin(angle), -radius * Math.cos(angle), (end * length) / 2];
    }).flat(),
  );
  const found = convexHull(points);
  return found.span === 'solid' ? hullShape(found.hull) : { kind: 'sphere', center: [0, 0, 0], radius };
}
