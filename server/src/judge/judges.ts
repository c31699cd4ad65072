import { Piscina } from 'piscina';
import {
  type JudgeSurroundings,
  judgeSent,
  judgeStored,
  meshFault,
  type StateTexts,
  type StoredState,
  type Verdict,
  type WantsTexts,
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
    // Warm from the start: the first large piece does not wait for it.
    minThreads: 1,
  });

  /** @param textsOf the texts of the stored state, asked for only when it was not read lately */
  sent(
    body: string,
    stored: StoredState | null,
    around: JudgeSurroundings,
    textsOf: () => Promise<StateTexts> = nobody,
  ): Promise<Verdict> {
    const large = body.length + lengthOf(stored) >= AT_ONCE_LENGTH;
    return withTexts(stored, textsOf, (state) =>
      large
        ? (this.thread.run({ ask: 'sent', args: [body, state, around] }) as Promise<Verdict | WantsTexts>)
        : judgeSent(body, state, around),
    );
  }

  stored(
    state: StoredState,
    around: JudgeSurroundings,
    textsOf: () => Promise<StateTexts> = nobody,
  ): Promise<Verdict> {
    return withTexts(state, textsOf, (known) =>
      lengthOf(state) >= AT_ONCE_LENGTH
        ? (this.thread.run({ ask: 'stored', args: [known!, around] }) as Promise<Verdict | WantsTexts>)
        : judgeStored(known!, around),
    );
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

const lengthOf = (state: StoredState | null) =>
  state ? state.edits.reduce((sum, { length }) => sum + length, state.base.length) : 0;

const nobody = async (): Promise<StateTexts> => {
  throw new Error('a state was judged whose texts nobody can give');
};

/** Ask without the texts first: a state that was read lately is known by its hashes. */
async function withTexts(
  state: StoredState | null,
  textsOf: () => Promise<StateTexts>,
  ask: (state: StoredState | null) => Promise<Verdict | WantsTexts> | Verdict | WantsTexts,
): Promise<Verdict> {
  const first = await ask(state);
  if (!('wantsTexts' in first)) return first;
  const second = await ask({ ...state!, texts: await textsOf() });
  if ('wantsTexts' in second) throw new Error('a state was judged with its texts and asks for them again');
  return second;
}
