import {
  type AskedTrials,
  collidingArt,
  type PieceDocument,
  type TargetProfile,
  type WalkTrial,
} from '@yard-brace/core';
import { walkPiece } from '@yard-brace/trial';
import type { Progress } from '../messages';
import { placedOf } from './art';

/** Each agent sent at the piece from all sides, as it is kept with the piece. */
export async function walkTrials(
  document: PieceDocument,
  profile: TargetProfile,
  asked: Pick<AskedTrials, 'walkers' | 'joltMetres'>,
  progress: Progress,
): Promise<WalkTrial[]> {
  const { walkers, joltMetres } = asked;
  const placed = await placedOf(document, (share) => progress(share * 0.1, 'Fetching the art'));
  const art = collidingArt(document, placed).mesh;
  const walks: WalkTrial[] = [];
  for (const [i, agent] of walkers.entries()) {
    const tell = (share: number) =>
      progress(0.1 + (0.9 * (i + share)) / walkers.length, `The ${agent.name} walks`);
    walks.push(await walkPiece({ document, art, profile, agent, joltMetres, progress: tell }));
  }
  return walks;
}
