import type { ConvexPart } from './convex-part.js';

/** The pieces that stand for the art at one count. */
export type State = ConvexPart[];

const worst = (state: State): number => Math.max(0, ...state.map((piece) => piece.standOff));

/**
 * One ladder of several: all start with their fewest pieces; then whichever stands off most goes up to its next
 * state that stands off less, until none can.
 *
 * @param ladders for each separate solid its states, fewest pieces first
 */
export function handOut(ladders: readonly State[][]): State[] {
  const useful = ladders.map((states) => {
    let least = Infinity;
    return states.filter((state) => {
      const here = worst(state);
      if (here >= least * (1 - 1e-6) && least !== Infinity) return false;
      least = here;
      return true;
    });
  });
  const at = useful.map(() => 0);
  const now = () => useful.flatMap((states, i) => states[at[i]!]!);
  const out: State[] = [now()];
  for (;;) {
    let next = -1;
    let most = -1;
    useful.forEach((states, i) => {
      const here = worst(states[at[i]!]!);
      if (at[i]! + 1 >= states.length || here <= most) return;
      most = here;
      next = i;
    });
    if (next < 0) return out;
    at[next]!++;
    out.push(now());
  }
}
