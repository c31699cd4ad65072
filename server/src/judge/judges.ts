import { Piscina } from 'piscina';
import {
  type JudgeSurroundings,
  judgeSent,
  judgeStored,
  meshFault,
  type StoredState,
  type Verdict,
  type WantsBase,
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

  /** @param baseOf the text of the stored base, asked for only when the state was not read lately */
  sent(
    body: string,
    stored: StoredState | null,
    around: JudgeSurroundings,
    baseOf: () => Promise<string> = nobase,
  ): Promise<Verdict> {
    const large = body.length + lengthOf(stored) >= AT_ONCE_LENGTH;
    return withBase(stored, baseOf, (state) =>
      large
        ? (this.thread.run({ ask: 'sent', args: [body, state, around] }) as Promise<Verdict | WantsBase>)
        : judgeSent(body, state, around),
    );
  }

  stored(
    state: StoredState,
    around: JudgeSurroundings,
    baseOf: () => Promise<string> = nobase,
  ): Promise<Verdict> {
    return withBase(state, baseOf, (known) =>
      lengthOf(state) >= AT_ONCE_LENGTH
        ? (this.thread.run({ ask: 'stored', args: [known!, around] }) as Promise<Verdict | WantsBase>)
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

const lengthOf = (state: StoredState | null) => (state ? state.baseLength + state.edits.length : 0);

const nobase = async (): Promise<string> => {
  throw new Error('a state was judged whose base nobody can give');
};

/** Ask without the base first: a state that was read lately is known by its number. */
async function withBase(
  state: StoredState | null,
  baseOf: () => Promise<string>,
  ask: (state: StoredState | null) => Promise<Verdict | WantsBase> | Verdict | WantsBase,
): Promise<Verdict> {
  const first = await ask(state);
  if (!('wantsBase' in first)) return first;
  const second = await ask({ ...state!, base: await baseOf() });
  if ('wantsBase' in second) throw new Error('a state was judged with its base and asks for it again');
  return second;
}
