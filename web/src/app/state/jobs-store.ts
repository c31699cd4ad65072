import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Job } from '@yard-brace/contract';
import type { Recipe } from '@yard-brace/core';
import { BehaviorSubject, map, Subject } from 'rxjs';
import { Api } from '../api/api';
import { Clock } from './clock';
import { Notices } from './notices';

/** How long after an answer the jobs are asked for again, while one runs and while none does. */
export const RUNNING_AGAIN_MS = 1000;
export const QUIET_AGAIN_MS = 15_000;

/** Jobs of the yard that is looked at: they run on the server, whether anybody looks or not. */
@Injectable({ providedIn: 'root' })
export class JobsStore implements OnDestroy {
  private readonly api = inject(Api);
  private readonly clock = inject(Clock);
  private readonly notices = inject(Notices);
  private readonly all$ = new BehaviorSubject<readonly Job[]>([]);
  private readonly ends$ = new Subject<Job>();
  readonly jobs$ = this.all$.asObservable();
  /** those that are not at their end, the first to be worked on first */
  readonly open$ = this.jobs$.pipe(
    map((jobs) =>
      jobs.filter(({ state }) => state !== 'ended').sort((a, b) => b.priority - a.priority || a.id - b.id),
    ),
  );
  /** a job that came to its end while it was looked at */
  readonly ended$ = this.ends$.asObservable();
  private yard: number | null = null;
  /** what was asked for before another yard, or again, is not heard */
  private asking = 0;

  ngOnDestroy(): void {
    this.asking++;
  }

  /** The jobs of this yard from now on. */
  watch(yardId: number): void {
    if (this.yard === yardId) return;
    this.yard = yardId;
    this.all$.next([]);
    void this.ask();
  }

  /** True once it has begun. */
  async begin(yardId: number, recipe: Recipe, pieces: readonly number[]): Promise<Job | null> {
    return this.change(() => this.api.beginJob(yardId, recipe, pieces));
  }

  stop = (id: number) => this.change(() => this.api.stopJob(id));
  goOn = (id: number) => this.change(() => this.api.goOnWithJob(id));
  /** Before all others that wait. */
  async first(id: number): Promise<void> {
    const most = Math.max(0, ...this.all$.value.map(({ priority }) => priority));
    await this.change(() => this.api.prioritiseJob(id, Math.min(100, most + 1)));
  }
  tryAgain = (id: number, pieces: readonly number[] | null) =>
    this.change(() => this.api.tryJobAgain(id, pieces));

  private async change(send: () => Promise<Job>): Promise<Job | null> {
    try {
      const job = await send();
      const others = this.all$.value.filter(({ id }) => id !== job.id);
      this.all$.next([job, ...others].sort((a, b) => b.id - a.id));
      void this.ask();
      return job;
    } catch (error) {
      this.notices.error(error);
      return null;
    }
  }

  private async ask(): Promise<void> {
    const asked = ++this.asking;
    const yard = this.yard!;
    // What cannot be asked now is asked again; the notice of a lost server is the business of others.
    const jobs = await this.api.jobs(yard).catch(() => null);
    if (asked !== this.asking) return;
    if (jobs) {
      const before = new Map(this.all$.value.map((job) => [job.id, job]));
      this.all$.next(jobs);
      for (const job of jobs)
        if (job.state === 'ended' && (before.get(job.id)?.state ?? 'ended') !== 'ended') this.ends$.next(job);
    }
    const running = this.all$.value.some(({ state }) => state === 'running');
    this.clock.after(running ? RUNNING_AGAIN_MS : QUIET_AGAIN_MS, () => {
      if (asked === this.asking) void this.ask();
    });
  }
}
