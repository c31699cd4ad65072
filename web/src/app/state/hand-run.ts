import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import type { Remote } from 'comlink';
import { BehaviorSubject, Subscription } from 'rxjs';
import { Compute } from '../workers/compute';
import type { TrialJobs } from '../workers/trial.worker';
import { Notices } from './notices';
import { PlayedRuns } from './played-runs';
import { Steering } from './steering';
import { StepLoop } from './step-loop';
import { WalkGround } from './walk-ground';

export const RUN_PACES = { 'real time': 1, 'a quarter': 0.25 } as const;
export type RunPace = keyof typeof RUN_PACES;

/** What every run by hand has: whether time goes on, and how fast. */
export interface HandRunning {
  running: boolean;
  pace: RunPace;
}

/** What a person does with a run beside steering it. */
export interface RunControls {
  set(change: Partial<HandRunning>): void;
  step(): Promise<void>;
  restart(): Promise<void>;
  startAt(at: Vec3): Promise<void>;
  end(): void;
}

/** Somebody that a person steers: the engine runs on a worker, one step of time after the other. */
@Injectable()
export abstract class HandRun<State extends HandRunning> implements RunControls, OnDestroy {
  protected readonly ground = inject(WalkGround);
  protected readonly steering = inject(Steering);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly played = inject(PlayedRuns);
  protected readonly state$ = new BehaviorSubject<State | null>(null);
  private readonly loop = new StepLoop(
    () => (this.state$.value?.running ? RUN_PACES[this.state$.value.pace] : null),
    (steps) => this.advance(steps),
  );
  private readonly subscription = new Subscription();
  private readonly leave = () => this.end();

  constructor() {
    this.subscription.add(this.ground.changed$.subscribe(() => void this.again()));
    this.subscription.add(this.ground.left$.subscribe(() => this.end()));
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
    this.end();
  }

  /** From here from now on. */
  abstract startAt(at: Vec3): Promise<void>;
  /** From its start again. */
  abstract restart(): Promise<void>;
  /** The same on what there is now. */
  protected abstract again(): Promise<void>;
  /** So many steps of time as it is steered now. */
  protected abstract advanced(jobs: Remote<TrialJobs>, steps: number): Promise<Partial<State> | null>;
  /** The engine lets go of it. */
  protected abstract ended(jobs: Remote<TrialJobs>): Promise<void>;

  /** It begins, and goes on by itself. */
  protected async start(begin: (jobs: Remote<TrialJobs>) => Promise<State>): Promise<void> {
    this.steering.take(this.leave);
    this.played.stopPlaying();
    try {
      this.state$.next(await this.compute.walk(begin));
      this.loop.start();
    } catch (error) {
      this.notices.error(error);
    }
  }

  end(): void {
    this.loop.stop();
    this.steering.letGo();
    if (!this.state$.value) return;
    this.state$.next(null);
    void this.compute.walk((jobs) => this.ended(jobs)).catch(() => undefined);
  }

  /** One step of time, while it stands still. */
  async step(): Promise<void> {
    this.patch({ running: false } as Partial<State>);
    await this.advance(1);
  }

  set(change: Partial<State>): void {
    this.patch(change);
    if (change.running) this.loop.start();
  }

  protected patch(change: Partial<State>): void {
    const now = this.state$.value;
    if (now) this.state$.next({ ...now, ...change });
  }

  /** Asks while it runs; a question that fails is said, and it goes on. */
  protected async ask(work: (jobs: Remote<TrialJobs>) => Promise<unknown>): Promise<void> {
    if (!this.state$.value) return;
    try {
      await this.compute.walk(work);
    } catch (error) {
      this.notices.error(error);
    }
  }

  private async advance(steps: number): Promise<void> {
    try {
      const answer = await this.compute.walk((jobs) => this.advanced(jobs, steps));
      if (answer) this.patch(answer);
    } catch (error) {
      this.end();
      this.notices.error(error);
    }
  }
}
