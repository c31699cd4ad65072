import type { ConvexPart, DecompositionContext } from './convex-part.js';
import { filledBy, misfitOfState, standOffOf, thicknessOf } from './misfit.js';

/** The pieces that stand for the art at one count. */
export type State = ConvexPart[];

/**
 * One ladder of several, up to `most` shapes: all start with their fewest pieces; then whichever costs most, by how far it
 * stands off and, without an agent, how much it fills, goes up to its next state that costs less. One whose next state
 * would be too many lets the others go on.
 *
 * @param ladders for each separate solid its states, fewest pieces first
 */
export function handOut(ladders: readonly State[][], most: number, context: DecompositionContext): State[] {
  // Who feels how far a shape stands off asks for nothing else.
  const costOf = (state: State) =>
    standOffOf(state) + (context.agentDetail > 0 ? 0 : thicknessOf(filledBy(state), context));
  const useful = ladders.map((states) => fallingOf(states.map((state) => ({ state, cost: costOf(state) }))));
  const fewest = useful.reduce((sum, [first]) => sum + first!.state.length, 0);
  const out: State[] = [];
  for (let count = fewest; count <= Math.max(fewest, most); count++) {
    const handed = handedOut(useful, fewest, count);
    if (handed.length === count) out.push(handed);
  }
  return out;
}

interface Priced {
  state: State;
  cost: number;
}

/** Those that cost less than all with fewer pieces. */
function fallingOf(states: readonly Priced[]): Priced[] {
  let least = Infinity;
  return states.filter(({ cost }, i) => {
    if (i > 0 && cost >= least * (1 - 1e-6)) return false;
    least = cost;
    return true;
  });
}

/** What comes of no more than `most` pieces, of which `fewest` are given to begin with. */
function handedOut(ladders: readonly Priced[][], fewest: number, most: number): State {
  const at = ladders.map(() => 0);
  let left = most - fewest;
  const further = (i: number) =>
    at[i]! + 1 < ladders[i]!.length
      ? ladders[i]![at[i]! + 1]!.state.length - ladders[i]![at[i]!]!.state.length
      : Infinity;
  for (;;) {
    let next = -1;
    at.forEach((own, i) => {
      if (further(i) > left) return;
      if (next < 0 || ladders[i]![own]!.cost > ladders[next]![at[next]!]!.cost) next = i;
    });
    if (next < 0) return at.flatMap((own, i) => ladders[i]![own]!.state);
    left -= further(next);
    at[next]!++;
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
