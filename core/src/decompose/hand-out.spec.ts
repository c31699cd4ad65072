import type { ConvexPart, DecompositionContext } from './convex-part.js';
import { handOut, type State } from './hand-out.js';

const context = { size: 1, agentDetail: 0.04 } as DecompositionContext;

/** A state of so many pieces that stand off by so much; nothing is filled. */
const state = (count: number, standOff: number): State =>
  Array.from({ length: count }, () => ({ standOff, hullVolume: 1, volume: 1 }) as ConvexPart);

const told = (states: readonly State[]) =>
  states.map((some) => [some.length, Math.max(...some.map(({ standOff }) => standOff))]);

describe('handing out shapes among solids', () => {
  it('gives the next to whichever costs most', () => {
    const ladders = [
      [state(1, 0.5), state(2, 0.2), state(3, 0.1)],
      [state(1, 0.4), state(2, 0.3)],
    ];
    expect(told(handOut(ladders, 32, context))).toEqual([
      [2, 0.5],
      [3, 0.4],
      [4, 0.3],
      [5, 0.3],
    ]);
  });

  it('lets the others go on when the next state of the costliest would be too many', () => {
    const stuck = [state(1, 0.5), state(30, 0.1)];
    const other = [state(1, 0.4), state(6, 0.2), state(9, 0.1)];
    const states = handOut([stuck, other], 20, context);
    expect(states.map(({ length }) => length)).toEqual([2, 7, 10]);
    expect(states.at(-1)!.filter(({ standOff }) => standOff === 0.1).length).toBe(9);
  });

  it('fills the counts before a long step with what the others need', () => {
    const ladders = [
      [state(1, 0.5), state(10, 0.1)],
      [state(1, 0.4), state(3, 0.2)],
    ];
    const states = handOut(ladders, 32, context);
    expect(told(states)).toEqual([
      [2, 0.5],
      [4, 0.5],
      [11, 0.4],
      [13, 0.2],
    ]);
  });

  it('begins with the fewest pieces even when they are more than are allowed, and passes by what costs no less', () => {
    expect(told(handOut([[state(3, 0.3)], [state(2, 0.1)]], 4, context))).toEqual([[5, 0.3]]);
    expect(told(handOut([[state(1, 0.3), state(2, 0.3), state(3, 0.1)]], 8, context))).toEqual([
      [1, 0.3],
      [3, 0.1],
    ]);
  });
});
