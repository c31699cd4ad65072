import type { Mesh } from '../mesh/index.js';
import { type Clearance, clearanceFound, isHatch } from '../piece/index.js';
import { findOpenings, type FoundOpening } from '../solid/index.js';
import type { Agent } from './agents.js';

/** An opening down to the floor that has this share of what an agent needs is meant for it, and may lack the rest. */
const MEANT_SHARE = 0.6;

/**
 * The ways through art that are meant for an agent, where nobody has marked any: those that are wide and high enough
 * for it, and those down to the floor that nearly are, which it is to be told about.
 */
export const meantOpenings = (art: Mesh, agent: Pick<Agent, 'radius' | 'height'>): Clearance[] =>
  findOpenings(art)
    .filter((opening) => isMeantFor(opening, agent))
    .map((opening, i) => clearanceFound(opening, `opening ${i + 1}`));

function isMeantFor(opening: FoundOpening, { radius, height }: Pick<Agent, 'radius' | 'height'>): boolean {
  const [w, h] = opening.halfExtents;
  const needed = isHatch(clearanceFound(opening)) ? 2 * radius : height;
  const share = Math.min(w / radius, (2 * h) / needed);
  return share >= (opening.toFloor ? MEANT_SHARE : 1);
}
