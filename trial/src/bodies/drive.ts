import type { Bounds, Vec3 } from '@yard-brace/core';
import type { TrialShape } from '../walk/trial-world.js';
import { BodyWorld, type Played } from './body-world.js';
import { SETTLE_STEPS, type Trolley, type TrolleyMark, TrolleyRun } from './trolley.js';

export interface DriveInput {
  shapes: readonly TrialShape[];
  /** of the art that is driven on, metres */
  around: Bounds;
  /** height of the ground, metres. Default: none, what leaves the shapes falls */
  ground?: number | null;
  trolley: Trolley;
  /** over the floor where it starts, and its level way */
  from: Vec3;
  way: readonly [number, number];
  /** metres that it has to go */
  length: number;
  /** metres a second. Default 1.5 */
  pace?: number;
}

/** A place where something happened to a trolley, with the id of the shape to blame; null for the ground. */
export type DriveMark = Omit<TrolleyMark, 'shape'> & { shape: string | null };

export interface Driven {
  end: 'through' | 'falls' | 'stopped' | 'tips';
  /** metres that it got on */
  metres: number;
  /** where it ended */
  at: Vec3;
  /** steps in which a wheel left the floor, after it came to stand */
  airborne: number;
  /** id of a surface whose faces look away from who drives on it; null for none */
  wrongWay: string | null;
  /** where a wheel jolted or the trolley was caught, the worst first */
  marks: DriveMark[];
  played: Played;
}

const PACE = 1.5;
const STOPPED_STEPS = 60;
/** What gets on by less than this share of its pace stands. */
const STANDS_SHARE = 0.03;

/** A four-wheeled trolley driven straight over a floor: through, or where it falls, is stopped or tips. */
export async function drive(input: DriveInput): Promise<Driven> {
  const { shapes, around, trolley, from, way, length, pace = PACE, ground = null } = input;
  const run = await BodyWorld.of(shapes, around, ground);
  const driven = new TrolleyRun(run, trolley, from, way);
  const steps = Math.ceil((length / pace) * 60 * 2) + SETTLE_STEPS + STOPPED_STEPS;
  const along = (x: number, z: number): number => x * way[0] + z * way[1];
  const gone = (): number => along(driven.pose.at[0] - from[0], driven.pose.at[2] - from[2]);
  let end: Driven['end'] = 'stopped';
  let still = 0;
  for (let step = 0; step < steps && still <= STOPPED_STEPS; step++) {
    driven.step({ pace, turn: 0 });
    if (driven.state !== 'drives') {
      end = driven.state;
      break;
    }
    if (gone() >= length) {
      end = 'through';
      break;
    }
    still = driven.hasSettled && along(...driven.velocity) < pace * STANDS_SHARE ? still + 1 : 0;
  }
  const found: Driven = {
    end,
    metres: gone(),
    at: driven.pose.at,
    airborne: driven.airborne,
    wrongWay: driven.wrongWay === null ? null : (shapes[driven.wrongWay]?.id ?? null),
    marks: marksOf(driven, shapes),
    played: run.played(),
  };
  driven.free();
  run.free();
  return found;
}

/** What happened to a trolley, the worst first. */
export const marksOf = ({ marks }: TrolleyRun, shapes: readonly TrialShape[]): DriveMark[] =>
  [...marks]
    .sort((a, b) => b.metres - a.metres)
    .map((mark) => ({ ...mark, shape: shapes[mark.shape]?.id ?? null }));
