import { inject, Injectable, type OnDestroy } from '@angular/core';
import { BehaviorSubject, distinctUntilChanged, type Subscription } from 'rxjs';
import type { BodyTrialRun } from '../workers/jobs/body-trial';
import { PlayedRuns } from './played-runs';

/** A trial as it is played. */
export interface Playing {
  run: BodyTrialRun;
  frame: number;
  running: boolean;
  slow: boolean;
}

const FRAMES_A_SECOND = 30;

/** Plays the last trial with bodies: at once, slowly, or frame by frame. */
@Injectable()
export class TrialPlayer implements OnDestroy {
  private readonly trials = inject(PlayedRuns);
  private readonly now$ = new BehaviorSubject<Playing | null>(null);
  readonly playing$ = this.now$.asObservable();
  private readonly subscription: Subscription;
  private tick = 0;

  constructor() {
    this.subscription = this.trials.played$.pipe(distinctUntilChanged()).subscribe((run) => {
      this.now$.next(run?.played ? { run, frame: 0, running: true, slow: false } : null);
      this.go();
    });
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
    cancelAnimationFrame(this.tick);
  }

  set(change: Partial<Pick<Playing, 'running' | 'slow'>>): void {
    const playing = this.now$.value;
    if (!playing) return;
    const ended = playing.frame >= lastFrame(playing);
    this.now$.next({ ...playing, ...change, frame: change.running && ended ? 0 : playing.frame });
    this.go();
  }

  again(): void {
    const playing = this.now$.value;
    if (playing) this.now$.next({ ...playing, frame: 0, running: true });
    this.go();
  }

  step(): void {
    const playing = this.now$.value;
    if (playing)
      this.now$.next({ ...playing, running: false, frame: Math.min(playing.frame + 1, lastFrame(playing)) });
  }

  stop(): void {
    this.trials.stopPlaying();
  }

  private go(): void {
    cancelAnimationFrame(this.tick);
    let last = performance.now();
    const next = (now: number) => {
      const playing = this.now$.value;
      if (!playing?.running) return;
      const gone = Math.floor(((now - last) / 1000) * FRAMES_A_SECOND * (playing.slow ? 0.25 : 1));
      if (gone > 0) {
        last = now;
        const frame = Math.min(playing.frame + gone, lastFrame(playing));
        this.now$.next({ ...playing, frame, running: frame < lastFrame(playing) });
      }
      this.tick = requestAnimationFrame(next);
    };
    this.tick = requestAnimationFrame(next);
  }
}

const lastFrame = ({ run }: Playing): number => Math.max(0, (run.played?.frames ?? 1) - 1);
