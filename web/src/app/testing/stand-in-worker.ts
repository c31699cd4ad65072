import { expose } from 'comlink';
import type { WorkerLike } from '../workers/worker-host';

export interface StandIn extends WorkerLike {
  gone: boolean;
  /** Break as a worker does that runs out of memory. */
  crash(): void;
}

/** A worker whose jobs run on the page, for specs: it answers by messages, can break, and is silent once it is gone. */
export function standInWorker(jobs: object): StandIn {
  const { port1, port2 } = new MessageChannel();
  expose(jobs, port2);
  port1.start();
  const worker: StandIn = {
    gone: false,
    onerror: null,
    terminate() {
      worker.gone = true;
      port1.close();
      port2.close();
    },
    postMessage: port1.postMessage.bind(port1) as WorkerLike['postMessage'],
    addEventListener: port1.addEventListener.bind(port1) as WorkerLike['addEventListener'],
    removeEventListener: port1.removeEventListener.bind(port1) as WorkerLike['removeEventListener'],
    crash: () => worker.onerror?.(new ErrorEvent('error')),
  };
  return worker;
}

/** A promise that a spec settles when it wants to. */
export function gate<T = void>(): { opened: Promise<T>; open(value?: T): void } {
  let open!: (value?: T) => void;
  const opened = new Promise<T>((resolve) => (open = resolve as (value?: T) => void));
  return { opened, open };
}
