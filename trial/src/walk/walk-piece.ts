import {
  collisionShapes,
  meantOpenings,
  takesOf,
  type WalkPiece,
  walkTrialKey,
  walkTrialSchema,
} from '@yard-brace/core';
import { walkTrial } from './walk-trial.js';

/**
 * An agent sent from all sides at the shapes of a piece as a target has them, as it is kept with the piece. It goes
 * through the openings that are marked, or through the ways that are meant for it where none are.
 */
export const walkPiece: WalkPiece = async ({ document, art, profile, agent, joltMetres, progress }) => {
  const { proxies, clearances } = document;
  const colliders = await collisionShapes(
    profile,
    proxies.map(({ shape }) => shape),
  );
  const found = await walkTrial({
    shapes: proxies.map(({ id }, i) => ({ id, colliders: colliders[i]! })),
    art,
    clearances: clearances.length ? clearances : meantOpenings(art, agent),
    agent,
    limits: { joltMetres },
    progress,
  });
  return walkTrialSchema.parse({
    ...found,
    key: walkTrialKey(document, agent, { joltMetres }, takesOf(profile)),
  });
};
