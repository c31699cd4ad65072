import {
  type AskedTrials,
  type PieceDocument,
  takesOf,
  type TargetProfile,
  walkTrialKey,
  type WalkTrial,
  walkTrialSchema,
} from '@yard-brace/core';
import { walkTrial } from '@yard-brace/trial';
import type { Progress } from '../messages';
import { openingsFor, trialInput } from './trial-input';

/** Each agent sent at the piece from all sides, as it is kept with the piece. */
export async function walkTrials(
  document: PieceDocument,
  profile: TargetProfile,
  asked: Pick<AskedTrials, 'walkers' | 'joltMetres'>,
  progress: Progress,
): Promise<WalkTrial[]> {
  const { walkers, joltMetres } = asked;
  const input = await trialInput(document, profile, (share) => progress(share * 0.1, 'Fetching the art'));
  const walks: WalkTrial[] = [];
  for (const [i, agent] of walkers.entries()) {
    const tell = (share: number) =>
      progress(0.1 + (0.9 * (i + share)) / walkers.length, `The ${agent.name} walks`);
    const found = await walkTrial({
      ...input,
      clearances: openingsFor(document, input.art, agent),
      agent,
      limits: { joltMetres },
      progress: tell,
    });
    const key = walkTrialKey(document, agent, { joltMetres }, takesOf(profile));
    walks.push(walkTrialSchema.parse({ ...found, key }));
  }
  return walks;
}
