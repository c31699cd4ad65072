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
 */
export async function fuzz({
  count,
  seed,
  limitMs,
  kinds = Object.keys(KINDS),
  only,
  say = () => undefined,
}) {
  const thread = new HeldThread({ limitMs });
  const bad = [];
  const counts = {};
  const slowest = { ms: 0, name: '' };
  for (const kind of kinds)
    for (const subject of await KINDS[kind]()) {
      const { name } = subject;
      if (only && only !== name) {
        await subject.close?.();
        continue;
      }
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
        if (outcome.ms > slowest.ms)
          Object.assign(slowest, { ms: outcome.ms, name: `${name} ${i}: ${label}` });
      }
      await subject.close?.();
      say(`${name.padEnd(28)}${ends.read} read, ${ends.refused} refused, ${ends.otherwise} otherwise`);
    }
  await thread.close();
  return { bad, counts, slowest };
}
