import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Job, NewImport } from '@yard-brace/contract';
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
  private readonly moves$ = new Subject<Job>();
  readonly jobs$ = this.all$.asObservable();
  /** those that are not at their end, the first to be worked on first */
  readonly open$ = this.jobs$.pipe(
    map((jobs) =>
      jobs.filter(({ state }) => state !== 'ended').sort((a, b) => b.priority - a.priority || a.id - b.id),
    ),
  );
  /** a job that came to its end while it was looked at, or an import that brought in more pieces */
  readonly moved$ = this.moves$.asObservable();
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

  /** Its number. @throws what the server says against it */
  async beginImport(yardId: number, files: NewImport): Promise<number> {
    const job = await this.api.beginImport(yardId, files);
    this.take(job);
    return job.id;
  }

  /** A report tells more of its job than is known here: all are asked for at once. */
  heard({ id, state, done, failed }: Job): void {
    const known = this.all$.value.find((job) => job.id === id);
    if (known && (known.state !== state || known.done !== done || known.failed !== failed)) void this.ask();
  }

  stop = (id: number) => this.change(() => this.api.stopJob(id));
  goOn = (id: number) => this.change(() => this.api.goOnWithJob(id));
  /** Before all others that wait. */
  async first(id: number): Promise<void> {
    const most = Math.max(0, ...this.all$.value.map(({ priority }) => priority));
    await this.change(() => this.api.prioritiseJob(id, Math.min(100, most + 1)));
  }
  tryAgain = (id: number, positions: readonly number[] | null) =>
    this.change(() => this.api.tryJobAgain(id, positions));

  private async change(send: () => Promise<Job>): Promise<Job | null> {
    try {
      const job = await send();
      this.take(job);
      return job;
    } catch (error) {
      this.notices.error(error);
      return null;
    }
  }

  private take(job: Job): void {
    const others = this.all$.value.filter(({ id }) => id !== job.id);
    this.all$.next([job, ...others].sort((a, b) => b.id - a.id));
    void this.ask();
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
      for (const job of jobs) {
        const known = before.get(job.id);
        if (!known || known.state === 'ended') continue;
        const more = job.kind === 'import' && job.done > known.done;
        if (job.state === 'ended' || more) this.moves$.next(job);
      }
    }
    const running = this.all$.value.some(({ state }) => state === 'running');
    this.clock.after(running ? RUNNING_AGAIN_MS : QUIET_AGAIN_MS, () => {
      if (asked === this.asking) void this.ask();
    });
  }
}
