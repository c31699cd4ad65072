import type { ConvexPart, DecompositionContext } from './convex-part.js';
import { filledBy, misfitOfState, standOffOf, thicknessOf } from './misfit.js';

/** The pieces that stand for the art at one count. */
export type State = ConvexPart[];

/**
 * One ladder of several: all start with their fewest pieces; then whichever costs most, by how far it stands off and,
 * without an agent, how much it fills, goes up to its next state that costs less, until none can.
 *
 * @param ladders for each separate solid its states, fewest pieces first
 */
export function handOut(ladders: readonly State[][], context: DecompositionContext): State[] {
  // Who feels how far a shape stands off asks for nothing else.
  const costOf = (state: State) =>
    standOffOf(state) + (context.agentDetail > 0 ? 0 : thicknessOf(filledBy(state), context));
  const priced = (state: State) => ({ state, cost: costOf(state) });
  const useful = ladders.map((states) => {
    let least = Infinity;
    return states.map(priced).filter(({ cost }) => {
      if (cost >= least * (1 - 1e-6) && least !== Infinity) return false;
      least = cost;
      return true;
    });
  });
  const at = useful.map(() => 0);
  const now = () => useful.flatMap((states, i) => states[at[i]!]!.state);
  const out: State[] = [now()];
  for (;;) {
    let next = -1;
    let most = -1;
    useful.forEach((states, i) => {
      const { cost } = states[at[i]!]!;
      if (at[i]! + 1 >= states.length || cost <= most) return;
      most = cost;
      next = i;
    });
    if (next < 0) return out;
    at[next]!++;
    out.push(now());
  }
}

/**
 * Of several ladders for the same art the better state at each count, fewest first: the one with less misfit, or for an
 * agent the one that stands off less.
 */
export function betterOf(
  ladders: readonly (readonly State[])[],
  { agentDetail }: DecompositionContext,
): State[] {
  const best = new Map<number, { state: State; cost: number }>();
  for (const state of ladders.flat()) {
    const cost = agentDetail > 0 ? standOffOf(state) : misfitOfState(state);
    const known = best.get(state.length);
    if (!known || cost < known.cost * (1 - 1e-6)) best.set(state.length, { state, cost });
  }
  return [...best.values()].map(({ state }) => state).sort((a, b) => a.length - b.length);
}
