import { type Remote, wrap } from 'comlink';
import { Told } from '../api/told';
import { sendingOnce } from './held-documents';

/** Work was stopped by the person; nothing of it stays. */
export class Stopped extends Told {
  override readonly name = 'Stopped';
}

/** What a host needs of a worker; a real one in the application, a stand-in in specs. */
export type WorkerLike = Pick<
  Worker,
  'terminate' | 'postMessage' | 'addEventListener' | 'removeEventListener'
> & {
  onerror: ((event: ErrorEvent) => unknown) | null;
};

export interface HostedTask<R> {
  result: Promise<R>;
  /** End this task and no other. One that waits is taken off the line; one that runs ends with its worker. */
  stop(): void;
}

interface Waiting {
  begin(): void;
  fail(reason: Error): void;
}

/**
 * One worker that does one task after the other. It is started when it is first needed; when it breaks, whoever waits
 * for its task is told, and the next task starts a fresh one.
 */
export class WorkerHost<T> {
  private worker: WorkerLike | undefined;
  private remote: Remote<T> | undefined;
  private readonly line: Waiting[] = [];
  private running: Waiting | null = null;

  constructor(private readonly start: () => WorkerLike) {}

  /** tasks that run or wait */
  get length(): number {
    return this.line.length + (this.running ? 1 : 0);
  }

  run<R>(work: (jobs: Remote<T>) => Promise<R>): HostedTask<R> {
    let task!: Waiting;
    const result = new Promise<R>((resolve, reject) => {
      task = {
        begin: () => {
          // The line moves on before the answer is out: who has it cannot stop the task any more.
          work(this.open()).then(
            (answer) => {
              this.next(task);
              resolve(answer);
            },
            (error: unknown) => {
              this.next(task);
              reject(error as Error);
            },
          );
        },
        fail: reject,
      };
    });
    this.line.push(task);
    this.next(null);
    return { result, stop: () => this.stop(task) };
  }

  /** The next task gets a fresh worker: what the last one has left in this one is not to be trusted. */
  restart(): void {
    if (this.running) return;
    this.worker?.terminate();
    this.worker = this.remote = undefined;
  }

  private next(ended: Waiting | null): void {
    if (this.running === ended) this.running = null;
    if (this.running) return;
    const task = this.line.shift();
    if (!task) return;
    this.running = task;
    task.begin();
  }

  private stop(task: Waiting): void {
    const waits = this.line.indexOf(task);
    if (waits >= 0) this.line.splice(waits, 1);
    else if (this.running !== task) return;
    const reason = new Stopped('Stopped.');
    if (waits >= 0) task.fail(reason);
    else this.end(reason);
  }

  private open(): Remote<T> {
    if (!this.remote) {
      const worker = this.start();
      // A worker that breaks, for want of memory for instance, never answers: whoever waits for it is told.
      worker.onerror = () =>
        this.end(
          new Told('The work broke off in the browser; nothing was changed. Try it with a smaller file.'),
        );
      this.worker = worker;
      this.remote = sendingOnce(wrap<T>(worker as unknown as Worker));
    }
    return this.remote;
  }

  /** The worker goes, and with it the task it was doing; those that wait get a fresh one. */
  private end(reason: Error): void {
    this.worker?.terminate();
    this.worker = this.remote = undefined;
    const task = this.running;
    task?.fail(reason);
    this.next(task);
  }
}
