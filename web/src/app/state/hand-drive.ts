import { Injectable } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import type { DriveFrame, DriveMark, Trolley, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import type { TrialJobs } from '../workers/trial.worker';
import { HandRun, type HandRunning } from './hand-run';

/** From where a drive is looked at. */
export const DRIVE_LOOKS = ['around', 'above'] as const;
export type DriveLook = (typeof DRIVE_LOOKS)[number];

/** The drive that is under way. */
export interface Driving extends HandRunning {
  trolley: Trolley;
  frame: DriveFrame;
  /** where a wheel jolted or it was caught, the worst first */
  marks: readonly DriveMark[];
  look: DriveLook;
  /** where it was put by hand; null before that */
  from: Vec3 | null;
}

/** Metres a second, ahead and backwards. */
const AHEAD_PACE = 1.5;
const BACK_PACE = 0.8;

/** A trolley that is driven by a person: its own ahead is ahead. */
@Injectable()
export class HandDriveStore extends HandRun<Driving> {
  readonly driving$ = this.state$.asObservable();
  /** that it was put to look along */
  private way: Way = [0, -1];

  get driving(): Driving | null {
    return this.state$.value;
  }

  /** Put a trolley at the near end of what is driven on, looking along a level way. */
  async begin(trolley: Trolley, way: Way): Promise<void> {
    const before = this.driving;
    this.way = way;
    await this.start(async (jobs) => ({
      trolley,
      frame: await this.ground.beginDrive(jobs, trolley, way),
      marks: [],
      running: true,
      pace: before?.pace ?? 'real time',
      look: before?.look ?? 'around',
      from: null,
    }));
  }

  override async startAt(at: Vec3): Promise<void> {
    await this.ask(async (jobs) => this.patch({ frame: await jobs.startDriveAt(at), marks: [], from: at }));
  }

  override async restart(): Promise<void> {
    await this.ask(async (jobs) => this.patch({ frame: await jobs.restartDrive(), marks: [] }));
  }

  protected override async again(): Promise<void> {
    const driving = this.driving;
    if (!driving) return;
    await this.begin(driving.trolley, this.way);
    if (driving.from) await this.startAt(driving.from);
  }

  protected override advanced(jobs: Remote<TrialJobs>, steps: number): Promise<Partial<Driving> | null> {
    const { ahead, right } = this.steering;
    const pace = ahead > 0 ? AHEAD_PACE : ahead < 0 ? -BACK_PACE : 0;
    return jobs.advanceDrive(Array.from({ length: steps }, () => ({ pace, turn: -right || 0 })));
  }

  protected override ended(jobs: Remote<TrialJobs>): Promise<void> {
    return jobs.endDrive();
  }
}
