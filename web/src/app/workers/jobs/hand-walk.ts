import type { Agent, PieceDocument, SetOut, TargetProfile, TrialContact, Vec3 } from '@yard-brace/core';
import { HandWalk, type WalkableArea, type WalkFrame, type WalkInput, type Way } from '@yard-brace/trial';
import { SET_GROUND_METRES, setTrialInput } from './set-trial';
import { trialInput } from './trial-input';

/** Contacts that are told while somebody walks, at most: the worst. */
const MAX_TOLD = 12;

/** The walk that is under way on this worker. */
let walk: HandWalk | null = null;

const running = (): HandWalk => {
  if (!walk) throw new Error('no walk was begun');
  return walk;
};

function begun(next: HandWalk): WalkFrame {
  walk?.free();
  walk = next;
  return walk.restart();
}

/** What a page asks while a person walks: one walk at a time. */
export const handWalk = {
  async beginWalk(
    document: PieceDocument,
    profile: TargetProfile,
    agent: Agent,
    ahead: Way,
  ): Promise<WalkFrame> {
    const { shapes, art } = await trialInput(document, profile, () => undefined);
    return begun(await HandWalk.of(shapes, art, agent, ahead));
  },
  async beginSetWalk(
    setOut: SetOut,
    documents: ReadonlyMap<string, PieceDocument>,
    profile: TargetProfile,
    agent: Agent,
    ahead: Way,
  ): Promise<WalkFrame> {
    const { shapes, art } = await setTrialInput(setOut, documents, profile, () => undefined);
    return begun(await HandWalk.of(shapes, art, agent, ahead, SET_GROUND_METRES));
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
