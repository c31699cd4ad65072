import { Piscina } from 'piscina';
import {
  type JudgeSurroundings,
  judgeSent,
  judgeStored,
  meshFault,
  type StoredState,
  type Verdict,
} from './judge.js';
import type { JudgeCall } from './judge-task.js';

/** What is shorter than this many characters is judged at once; more would hold the server up. */
const AT_ONCE_LENGTH = 128 * 1024;

/**
 * Reads and judges pieces: small ones at once, large ones on a thread beside, one after the other, so that twenty
 * large saves take neither the server's time nor twenty times the memory.
 */
export class Judges {
  private readonly thread = new Piscina<JudgeCall, unknown>({
    filename: new URL('./judge-task.js', import.meta.url).href,
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: 60_000,
  });

  sent(body: string, stored: StoredState | null, around: JudgeSurroundings): Promise<Verdict> | Verdict {
    if (body.length + lengthOf(stored) < AT_ONCE_LENGTH) return judgeSent(body, stored, around);
    return this.thread.run({ ask: 'sent', args: [body, stored, around] }) as Promise<Verdict>;
  }

  stored(state: StoredState, around: JudgeSurroundings): Promise<Verdict> | Verdict {
    if (lengthOf(state) < AT_ONCE_LENGTH) return judgeStored(state, around);
    return this.thread.run({ ask: 'stored', args: [state, around] }) as Promise<Verdict>;
  }

  meshFault(
    blob: string,
    meshes: readonly string[],
    bytes: Uint8Array,
  ): Promise<string | null> | string | null {
    if (bytes.length < AT_ONCE_LENGTH) return meshFault(blob, meshes, bytes);
    return this.thread.run({ ask: 'mesh', args: [blob, meshes, bytes] }) as Promise<string | null>;
  }

  async close(): Promise<void> {
    await this.thread.destroy();
  }
}

const lengthOf = (state: StoredState | null) => (state ? state.base.length + state.edits.length : 0);
