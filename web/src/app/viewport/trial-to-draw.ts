import type { Driving } from '../state/hand-drive';
import type { Walking } from '../state/hand-walk';
import type { Place } from './layer';
import type { TrialToDraw } from './layers/trial-layer';

/**
 * What of a walk or a drive by hand is drawn: who goes, the ground and the way, and what was felt so far as flags.
 *
 * @param flags what is flagged while nobody goes
 */
export function trialToDraw(
  walking: Walking | null,
  driving: Driving | null,
  flags: readonly Place[],
): TrialToDraw {
  const felt = driving?.marks ?? walking?.contacts;
  return {
    walker:
      walking && walking.look !== 'eyes'
        ? { agent: walking.agent, at: walking.frame.at, height: walking.frame.height }
        : null,
    trolley: driving && {
      trolley: driving.trolley,
      at: driving.frame.at,
      turned: driving.frame.turned,
    },
    area: walking?.area ?? null,
    route: walking?.route ?? null,
    flags: felt ? felt.map(({ at }, i) => ({ id: String(i + 1), at })) : flags,
  };
}
