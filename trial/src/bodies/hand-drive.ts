import type { Bounds, Vec3 } from '@yard-brace/core';
import type { TrialShape } from '../walk/trial-world.js';
import { BodyWorld, type Pose } from './body-world.js';
import { type DriveMark, marksOf } from './drive.js';
import { type Trolley, type TrolleyInput, TrolleyRun, type TrolleyState, wayOf } from './trolley.js';

/** A trolley after a step. */
export interface DriveFrame extends Pose {
  /** metres a second, backwards below 0 */
  pace: number;
  /** wheels that stand on something, of four */
  touching: number;
  state: TrolleyState;
  /** id of a surface whose faces look away from who drives on it; null for none */
  wrongWay: string | null;
}

export interface HandDriveInput {
  shapes: readonly TrialShape[];
  /** of the art that is driven on, metres */
  around: Bounds;
  /** height of the ground, metres; null for none */
  ground: number | null;
  trolley: Trolley;
  /** over the floor where it starts, and its level way */
  from: Vec3;
  way: readonly [number, number];
}

/** It is put so far over a place, metres. */
const OVER_METRES = 0.02;

/** A trolley that a person drives: the same inputs give the same drive. */
export class HandDrive {
  private run!: BodyWorld;
  private trolley!: TrolleyRun;

  private constructor(private readonly input: HandDriveInput) {}

  static async of(input: HandDriveInput): Promise<HandDrive> {
    const drive = new HandDrive({ ...input });
    await drive.begin();
    return drive;
  }

  /** From its start again; what happened is forgotten. */
  async restart(): Promise<DriveFrame> {
    this.free();
    await this.begin();
    return this.frame();
  }

  /** From this place from now on, looking where it looks. */
  async startAt(at: Readonly<Vec3>): Promise<DriveFrame> {
    this.input.from = [at[0], at[1] + OVER_METRES, at[2]];
    this.input.way = wayOf(this.trolley.pose.turned);
    return this.restart();
  }

  /** Steps of time, one for each input. */
  advance(inputs: readonly TrolleyInput[]): DriveFrame[] {
    return inputs.map((input) => {
      this.trolley.step(input);
      return this.frame();
    });
  }

  /** Where a wheel jolted or it was caught so far, the worst first. */
  marks(most: number): DriveMark[] {
    return marksOf(this.trolley, this.input.shapes).slice(0, most);
  }

  free(): void {
    this.trolley.free();
    this.run.free();
  }

  private async begin(): Promise<void> {
    const { shapes, around, ground, trolley, from, way } = this.input;
    this.run = await BodyWorld.of(shapes, around, ground);
    this.trolley = new TrolleyRun(this.run, trolley, from, way);
  }

  private frame(): DriveFrame {
    const { pose, pace, touching, state, wrongWay } = this.trolley;
    return {
      ...pose,
      pace,
      touching,
      state,
      wrongWay: wrongWay === null ? null : (this.input.shapes[wrongWay]?.id ?? null),
    };
  }
}
