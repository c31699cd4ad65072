import { inject, Injectable, InjectionToken } from '@angular/core';
import { proxy, type Remote } from 'comlink';
import { BehaviorSubject, filter, firstValueFrom } from 'rxjs';
import type { Jobs } from './compute.worker';
import type { TrialJobs } from './trial.worker';
import type { Progress } from './messages';
import { WorkerHost, type WorkerLike } from './worker-host';

export { Stopped } from './worker-host';

/** One piece of work, as the header shows it. */
export interface Task {
  what: string;
  /** 0 to 1 */
  share: number;
  /** ends long work; answers to the view end by themselves and have none */
  stop: (() => void) | null;
}

export interface RunOptions {
  /** what the header says until the work says more. Default: "Working" */
  first?: string;
  /** a question of the view: drawing, measuring, what is under the pointer. It waits for no long work */
  quick?: boolean;
  /** on a worker of its own: nobody waits for it, and nothing waits behind it */
  aside?: boolean;
  /** asked many times a second: the header says nothing of it */
  silent?: boolean;
}

/** Long tasks that run at once, each on a worker of its own. */
const LONG_HOSTS = 2;

/** Starts a worker with the jobs on it; specs put a stand-in here. */
export const START_WORKER = new InjectionToken<() => WorkerLike>('start a worker', {
  providedIn: 'root',
  factory: () => () => new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' }),
});

/** Starts a worker with the trials on it. */
export const START_TRIAL_WORKER = new InjectionToken<() => WorkerLike>('start a worker for trials', {
  providedIn: 'root',
  factory: () => () => new Worker(new URL('./trial.worker', import.meta.url), { type: 'module' }),
});

/** Work on workers: long tasks, each of which can be stopped, and one host that answers the view meanwhile. */
@Injectable({ providedIn: 'root' })
export class Compute {
  private readonly shown$ = new BehaviorSubject<Task | null>(null);
  /** what is being worked on, for the header; null when nothing is */
  readonly task$ = this.shown$.asObservable();
  private readonly start = inject(START_WORKER);
  private readonly quick = new WorkerHost<Jobs>(this.start);
  private readonly long = Array.from({ length: LONG_HOSTS }, () => new WorkerHost<Jobs>(this.start));
  private readonly aside = new WorkerHost<Jobs>(this.start);
  private readonly trials = new WorkerHost<TrialJobs>(inject(START_TRIAL_WORKER));
  private readonly walks = new WorkerHost<TrialJobs>(inject(START_TRIAL_WORKER));
  /** the last word of each task under way, in the order they began */
  private readonly tasks = new Map<object, Task>();

  /** What the header shows of the work under way. */
  get task(): Task | null {
    return this.shown$.value;
  }

  /** Run something on a worker. @throws Stopped when it was stopped */
  run<R>(
    work: (jobs: Remote<Jobs>, progress: Progress) => Promise<R>,
    { quick = false, aside = false, ...options }: RunOptions = {},
  ): Promise<R> {
    const least = () => this.long.reduce((a, b) => (b.length < a.length ? b : a));
    const host = quick ? this.quick : aside ? this.aside : least();
    return this.runOn(host, work, { quick, ...options });
  }

  /** A trial that runs by itself, on a worker of its own. @throws Stopped when it was stopped */
  runTrial<R>(
    work: (jobs: Remote<TrialJobs>, progress: Progress) => Promise<R>,
    options: Omit<RunOptions, 'quick' | 'aside'> = {},
  ): Promise<R> {
    return freshAfter(this.trials, this.runOn(this.trials, work, options));
  }

  /** A question of a walk by hand: asked many times a second, it waits for no trial. */
  walk<R>(work: (jobs: Remote<TrialJobs>) => Promise<R>): Promise<R> {
    return freshAfter(this.walks, this.walks.run(work).result);
  }

  private async runOn<J, R>(
    host: WorkerHost<J>,
    work: (jobs: Remote<J>, progress: Progress) => Promise<R>,
    { first = 'Working', quick = false, silent = false }: Omit<RunOptions, 'aside'>,
  ): Promise<R> {
    const token = {};
    const progress = proxy((share: number, what: string) => {
      const task = this.tasks.get(token);
      if (task) this.tell(token, { ...task, share, what });
    });
    const { result, stop } = host.run((jobs) => work(jobs, progress));
    if (!silent) this.tell(token, { what: first, share: 0, stop: quick ? null : stop });
    try {
      return await result;
    } finally {
      this.tasks.delete(token);
      this.show();
    }
  }

  /** Resolves when nothing is being worked on: for what can wait, like pictures of the shelf. */
  async idle(): Promise<void> {
    await firstValueFrom(this.task$.pipe(filter((task) => task === null)));
  }

  private tell(token: object, task: Task): void {
    this.tasks.set(token, task);
    this.show();
  }

  /** Long work is what a person waits for: it is shown before what the view asks meanwhile. */
  private show(): void {
    const tasks = [...this.tasks.values()];
    this.shown$.next(tasks.find(({ stop }) => stop) ?? tasks[0] ?? null);
  }
}

/** An engine that broke off, for want of memory for instance, works no more: what comes after gets another. */
async function freshAfter<R>(host: WorkerHost<TrialJobs>, result: Promise<R>): Promise<R> {
  try {
    return await result;
  } catch (error) {
    host.restart();
    throw error;
  }
}
