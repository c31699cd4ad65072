import { Injectable } from '@angular/core';
import { proxy, type Remote, wrap } from 'comlink';
import { BehaviorSubject } from 'rxjs';
import type { ComputeWorker } from './compute.worker';
import type { Progress } from './messages';

export interface Task {
  what: string;
  /** 0 to 1 */
  share: number;
}

/** Work was stopped by the person; nothing of it stays. */
export class Stopped extends Error {
  override readonly name = 'Stopped';
}

/** One worker at a time, started when it is needed; stopping ends it at once, whatever it is doing. */
@Injectable({ providedIn: 'root' })
export class Compute {
  /** what is being worked on, for the header; null when nothing is */
  readonly task$ = new BehaviorSubject<Task | null>(null);
  private worker: Worker | undefined;
  private remote: Remote<ComputeWorker> | undefined;
  private readonly running = new Set<(reason: Error) => void>();

  /** Run something on the worker. @throws Stopped when `stop` was called */
  async run<T>(
    work: (worker: Remote<ComputeWorker>, progress: Progress) => Promise<T>,
    first = 'Working',
  ): Promise<T> {
    this.task$.next({ what: first, share: 0 });
    const progress = proxy((share: number, what: string) => {
      if (this.running.size) this.task$.next({ what, share });
    });
    let halt!: (reason: Error) => void;
    const stopped = new Promise<never>((_, reject) => (halt = reject));
    this.running.add(halt);
    try {
      return await Promise.race([work(this.open(), progress), stopped]);
    } finally {
      this.running.delete(halt);
      if (this.running.size === 0) this.task$.next(null);
    }
  }

  stop(): void {
    this.end(new Stopped('Stopped.'));
  }

  private end(reason: Error): void {
    this.worker?.terminate();
    this.worker = this.remote = undefined;
    for (const halt of [...this.running]) halt(reason);
  }

  private open(): Remote<ComputeWorker> {
    if (!this.remote) {
      this.worker = new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });
      // A worker that breaks, for want of memory for instance, never answers: whoever waits for it is told.
      this.worker.onerror = () =>
        this.end(
          new Error('The work broke off in the browser; nothing was changed. Try it with a smaller file.'),
        );
      this.remote = wrap<ComputeWorker>(this.worker);
    }
    return this.remote;
  }
}
