import { HeldThread } from './held-thread.mjs';
import { random } from './random.mjs';
import { KINDS } from './subjects.mjs';

export const GOOD_ENDS = new Set(['read', 'refused']);

/**
 * Spoils and tries so many of each subject. Answers with what should not have been, how many were read and refused, and
 * the slowest.
 *
 * @param kinds of `KINDS`; default all
 * @param only the one subject that is tried
 * @param lanes subjects at a time, each on a thread of its own
 */
export async function fuzz({
  count,
  seed,
  limitMs,
  kinds = Object.keys(KINDS),
  only,
  lanes = 1,
  say = () => undefined,
}) {
  const bad = [];
  const counts = {};
  const slowest = { ms: 0, name: '' };
  const trySubject = async (thread, subject) => {
    const { name } = subject;
    const next = random(seed);
    const ends = (counts[name] = { read: 0, refused: 0, otherwise: 0 });
    for (let i = 0; i < count; i++) {
      const { label, task } = subject.next(next);
      const outcome = await thread.try({ ...task, address: subject.address });
      if (GOOD_ENDS.has(outcome.kind)) ends[outcome.kind]++;
      else {
        ends.otherwise++;
        bad.push({ subject: name, i, seed, label, task, ...outcome });
      }
      if (outcome.ms > slowest.ms) Object.assign(slowest, { ms: outcome.ms, name: `${name} ${i}: ${label}` });
    }
    say(`${name.padEnd(28)}${ends.read} read, ${ends.refused} refused, ${ends.otherwise} otherwise`);
  };
  for (const kind of kinds) {
    const waiting = await KINDS[kind]();
    const lane = async () => {
      const thread = new HeldThread({ limitMs });
      for (let subject = waiting.shift(); subject; subject = waiting.shift()) {
        if (!only || only === subject.name) await trySubject(thread, subject);
        await subject.close?.();
      }
      await thread.close();
    };
    await Promise.all(Array.from({ length: lanes }, lane));
  }
  return { bad, counts, slowest };
}
