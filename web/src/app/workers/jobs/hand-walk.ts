import type { Agent, PieceDocument, TargetProfile, TrialContact, Vec3 } from '@yard-brace/core';
import { HandWalk, type WalkableArea, type WalkFrame, type WalkInput, type Way } from '@yard-brace/trial';
import { trialInput } from './trial-input';

/** Contacts that are told while somebody walks, at most: the worst. */
const MAX_TOLD = 12;

/** The walk that is under way on this worker. */
let walk: HandWalk | null = null;

const running = (): HandWalk => {
  if (!walk) throw new Error('no walk was begun');
  return walk;
};

/** What a page asks while a person walks: one walk at a time. */
export const handWalk = {
  async beginWalk(
    document: PieceDocument,
    profile: TargetProfile,
    agent: Agent,
    ahead: Way,
  ): Promise<WalkFrame> {
    const { shapes, art } = await trialInput(document, profile, () => undefined);
    const next = await HandWalk.of(shapes, art, agent, ahead);
    walk?.free();
    walk = next;
    return walk.restart();
  },
  walkableArea: async (on: 'shapes' | 'art'): Promise<WalkableArea> => running().area(on),
  startWalkAt: async (at: Vec3): Promise<WalkFrame> => running().startAt(at),
  restartWalk: async (): Promise<WalkFrame> => running().restart(),
  walkTo: async (goal: Vec3): Promise<{ points: Vec3[]; complete: boolean }> => running().goTo(goal),
  walkStraight: async (goal: Vec3): Promise<void> => running().goStraight(goal),
  /** As many steps as there are inputs; the last frame of them, and the worst contacts so far. */
  async advanceWalk(
    inputs: readonly WalkInput[],
  ): Promise<{ frame: WalkFrame; contacts: TrialContact[] } | null> {
    const frame = running().advance(inputs).at(-1);
    return frame ? { frame, contacts: running().contacts(MAX_TOLD) } : null;
  },
  async endWalk(): Promise<void> {
    walk?.free();
    walk = null;
  },
};
