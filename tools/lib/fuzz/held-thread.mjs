import { once } from 'node:events';
import { Worker } from 'node:worker_threads';

/** Work may take so many times its limit until what comes after the part that is timed, such as a survey, is done as well. */
const PATIENCE = 15;

/** Tries one spoiled thing after the other on a thread that may take so much time and memory for each. */
export class HeldThread {
  #worker;

  constructor({ limitMs, heapMb = 1024 }) {
    this.limitMs = limitMs;
    this.heapMb = heapMb;
  }

  /**
   * @param task as `thread.mjs` takes it
   * @returns what came of it: read, refused, or what should not be: thrown, not a sentence, not storable, too slow, died
   */
  async try(task) {
    const worker = (this.#worker ??= await this.#start());
    const outcome = await new Promise((resolve) => {
      const timer = setTimeout(() => ended({ kind: 'read', ms: Infinity }), this.limitMs * PATIENCE);
      const ended = (result) => {
        clearTimeout(timer);
        worker.off('message', ended).off('error', died);
        resolve(result);
      };
      const died = (error) => ended({ kind: 'died', text: String(error), ms: 0 });
      worker.on('message', ended).on('error', died);
      worker.postMessage(task);
    });
    if (outcome.ms > this.limitMs)
      Object.assign(outcome, { kind: 'too slow', text: `over ${this.limitMs} ms` });
    if (outcome.kind === 'too slow' || outcome.kind === 'died') await this.close();
    return outcome;
  }

  /** A thread that has loaded all that it needs: that is nothing's fault. */
  async #start() {
    const worker = new Worker(new URL('./thread.mjs', import.meta.url), {
      resourceLimits: { maxOldGenerationSizeMb: this.heapMb },
      stderr: false,
    });
    await once(worker, 'message');
    return worker;
  }

  async close() {
    await this.#worker?.terminate();
    this.#worker = undefined;
  }
}
