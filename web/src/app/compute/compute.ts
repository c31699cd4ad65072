import { Injectable } from '@angular/core';
import { proxy, type Remote, wrap } from 'comlink';
import { BehaviorSubject } from 'rxjs';
import { Told } from '../shell/told';
import type { ComputeWorker } from './compute.worker';
import type { Progress } from './messages';

export interface Task {
  what: string;
  /** 0 to 1 */
  share: number;
  /** long work that the person can end; answers to the view end by themselves */
  stoppable: boolean;
}

/** Work was stopped by the person; nothing of it stays. */
export class Stopped extends Told {
  override readonly name = 'Stopped';
}

export interface RunOptions {
  /** what the header says until the work says more. Default: "Working" */
  first?: string;
  /** a question of the view: drawing, measuring, what is under the pointer. It waits for no long work and is not stopped with it */
  quick?: boolean;
}

/** How often it is looked whether nothing is being worked on. */
const IDLE_LOOK_MS = 120;

/** A worker that is started when it is needed, and the tasks it runs. */
class Lane {
  private worker: Worker | undefined;
  private remote: Remote<ComputeWorker> | undefined;
  readonly running = new Set<(reason: Error) => void>();

  open(): Remote<ComputeWorker> {
    if (!this.remote) {
      this.worker = new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });
      // A worker that breaks, for want of memory for instance, never answers: whoever waits for it is told.
      this.worker.onerror = () =>
        this.end(
          new Told('The work broke off in the browser; nothing was changed. Try it with a smaller file.'),
        );
      this.remote = wrap<ComputeWorker>(this.worker);
    }
    return this.remote;
  }

  end(reason: Error): void {
    this.worker?.terminate();
    this.worker = this.remote = undefined;
    for (const halt of [...this.running]) halt(reason);
  }
}

/** Two workers: one for long work, which can be stopped, and one that answers the view meanwhile. */
@Injectable({ providedIn: 'root' })
export class Compute {
  /** what is being worked on, for the header; null when nothing is */
  readonly task$ = new BehaviorSubject<Task | null>(null);
  private readonly long = new Lane();
  private readonly quick = new Lane();
  /** the last word of each task under way, in the order they began */
  private readonly tasks = new Map<object, Task>();

  /** Run something on a worker. @throws Stopped when `stop` was called */
  async run<T>(
    work: (worker: Remote<ComputeWorker>, progress: Progress) => Promise<T>,
    { first = 'Working', quick = false }: RunOptions = {},
  ): Promise<T> {
    const lane = quick ? this.quick : this.long;
    const token = {};
    const tell = (share: number, what: string) => {
      this.tasks.set(token, { what, share, stoppable: !quick });
      this.show();
    };
    tell(0, first);
    const progress = proxy((share: number, what: string) => {
      if (this.tasks.has(token)) tell(share, what);
    });
    let halt!: (reason: Error) => void;
    const stopped = new Promise<never>((_, reject) => (halt = reject));
    lane.running.add(halt);
    try {
      return await Promise.race([work(lane.open(), progress), stopped]);
    } finally {
      lane.running.delete(halt);
      this.tasks.delete(token);
      this.show();
    }
  }

  /** End the long work. The view goes on being drawn and measured. */
  stop(): void {
    this.long.end(new Stopped('Stopped.'));
  }

  /** Resolves when nothing is being worked on: for what can wait, like pictures of the shelf. */
  async idle(): Promise<void> {
    while (this.tasks.size) await new Promise((resolve) => setTimeout(resolve, IDLE_LOOK_MS));
  }

  /** Long work is what a person waits for: it is shown before what the view asks meanwhile. */
  private show(): void {
    const tasks = [...this.tasks.values()];
    this.task$.next(tasks.find(({ stoppable }) => stoppable) ?? tasks[0] ?? null);
  }
}
