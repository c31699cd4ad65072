import { Comparer, type ShapeComparison } from '../compare/index.js';
import type { Mesh } from '../mesh/index.js';
import { DecomposeError } from './decompose-error.js';
import { LadderMemory } from './ladder-memory.js';
import { deviationOf, misfitOf } from './misfit.js';
import { checkedOptions, type DecomposeOptions } from './options.js';
import type { PreparedArt } from './prepared-art.js';
import { type Rung, RUNG_COMPARER, rungsOf } from './rungs.js';
import { contextOf, search } from './search.js';

/** Every useful count of shapes for one piece of art, fewest first. Counts that bring nothing are left out. */
export interface Ladder {
  rungs: Rung[];
  /** the first rung whose deviation is within the agent's detail; null when none is, or no agent was given */
  goodEnough: number | null;
  /** loose crumbs beside the art that are too small to collide with, and have no shape */
  specks: number;
}

/**
 * Break art into convex shapes, as a ladder.
 *
 * Cut from the top along the art's own planes where that takes away most hollow and most concave edges, then
 * joined from the bottom where that fills least; every state on the way is a rung. Separate solids have
 * ladders of their own, and the count is handed out to whichever stands off most.
 *
 * @throws DecomposeError with one sentence when there is nothing to break up or the options contradict
 */
export async function decompose(mesh: Mesh, options: DecomposeOptions = {}): Promise<Ladder> {
  const settings = checkedOptions(options);
  const memory = options.memory ?? new LadderMemory();
  const prepared = await memory.prepared(mesh, options.faces, monotonous(options.progress));
  return memory.ladder(prepared, settings, () => {
    const context = contextOf(prepared, settings);
    const { states, whole, mirror } = memory.searched(prepared, settings, () => search(prepared, settings));
    const rungs = rungsOf(states, whole, prepared.comparer, settings, mirror, context);
    if (!rungs.length)
      throw new DecomposeError(
        `With the openings kept free at least ${states[0]!.length} shapes are needed; ${settings.maxShapes} are allowed.`,
      );
    return { rungs, goodEnough: goodEnough(rungs, settings.agentDetail, prepared), specks: prepared.specks };
  });
}

/** Figures of rungs are sampled: one that is so near to the limit, as a share of it, is measured exactly. */
const NEAR_LIMIT = 0.75;

/** The first rung within the detail that matters; what was measured exactly for that stands on the rung. */
function goodEnough(rungs: Rung[], agentDetail: number, { art, solid, told }: PreparedArt): number | null {
  if (!(agentDetail > 0)) return null;
  let exact: Comparer | undefined;
  for (const [i, rung] of rungs.entries()) {
    if (deviationOf(rung) > agentDetail) continue;
    if (deviationOf(rung) > agentDetail * NEAR_LIMIT) {
      exact ??= new Comparer(art, { cells: RUNG_COMPARER.cells, solid, progress: () => told.progress(-1) });
      rungs[i] = { ...rung, figures: exact.compare(rung.shapes) };
    }
    if (deviationOf(rungs[i]!) <= agentDetail) return i;
  }
  return null;
}

/** The best rung with at most so many shapes, see `misfitOf`, of equals the lowest; null when even the lowest has more. */
export function rungWithin({ rungs }: Ladder, maxShapes: number): Rung | null {
  const within = rungs.filter(({ shapes }) => shapes.length <= maxShapes);
  if (!within.length) return null;
  return within.reduce((a, b) => (misfitOf(b) < misfitOf(a) * (1 - 1e-3) ? b : a));
}

export type { Rung, ShapeComparison };

/** Share done, from what the steps tell: a negative share means "still at it". */
function monotonous(progress?: (share: number) => void): (share: number) => void {
  let done = 0;
  return (share) => {
    done = Math.max(done, share);
    progress?.(done);
  };
}
