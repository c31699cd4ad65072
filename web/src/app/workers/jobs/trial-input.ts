import {
  collidingArt,
  collisionShapes,
  type Mesh,
  type PieceDocument,
  type TargetProfile,
} from '@yard-brace/core';
import type { TrialShape } from '@yard-brace/trial';
import { placedOf } from './art';

/** What a trial is made of: the shapes as the target has them, and the art that collides. */
export interface TrialInput {
  shapes: TrialShape[];
  art: Mesh;
}

export async function trialInput(
  document: PieceDocument,
  profile: TargetProfile,
  progress: (share: number) => void,
): Promise<TrialInput> {
  const art = collidingArt(document, await placedOf(document, progress)).mesh;
  const colliders = await collisionShapes(
    profile,
    document.proxies.map(({ shape }) => shape),
  );
  return { shapes: document.proxies.map(({ id }, i) => ({ id, colliders: colliders[i]! })), art };
}
