import fc from 'fast-check';
import type { Clearance } from '../piece/index.js';
import { agentSchema, FIRST_AGENTS, judgedAgent, passageOf, usualAgent } from './agents.js';

const opening = (width: number, height: number, depth: number, through: 'x' | 'z'): Clearance => ({
  id: 'c1',
  name: 'opening 1',
  center: [0, height / 2, 0],
  halfExtents: [(through === 'x' ? depth : width) / 2, height / 2, (through === 'x' ? width : depth) / 2],
  rotation: [0, 0, 0, 1],
  through,
});
const deckhand = FIRST_AGENTS.find(({ id }) => id === 'deckhand')!;

describe('agents', () => {
  it('that a yard starts with are valid, and judge a piece one by one', () => {
    for (const agent of FIRST_AGENTS) expect(agentSchema.parse(agent)).toEqual(agent);
    expect(usualAgent(FIRST_AGENTS)!.id).toBe('deckhand');
    expect(usualAgent(FIRST_AGENTS.filter(({ id }) => id !== 'deckhand'))!.id).toBe('gantry-rig');
    expect(usualAgent([])).toBeUndefined();
    expect(judgedAgent({ agent: 'gull' }, FIRST_AGENTS)!.id).toBe('gull');
    expect(judgedAgent({ agent: 'gone' }, FIRST_AGENTS)!.id).toBe('deckhand');
    expect(judgedAgent({ agent: null }, FIRST_AGENTS)!.id).toBe('deckhand');
    // By what they feel, whatever they are called and in whatever order.
    const renamed = [...FIRST_AGENTS].reverse().map((agent, i) => ({ ...agent, id: `agent-${i}` }));
    expect(usualAgent(renamed)!.name).toBe('deckhand');
  });

  it('pass what is as wide and as high as they are, along the clearance’s own way', () => {
    const length = fc.double({ min: 0.05, max: 5, noNaN: true });
    fc.assert(
      fc.property(length, length, length, fc.constantFrom('x' as const, 'z' as const), (w, h, d, through) => {
        const passage = passageOf(opening(w, h, d, through), deckhand);
        expect(passage.width).toBeCloseTo(w, 9);
        expect(passage.height).toBeCloseTo(h, 9);
        // The depth is no matter.
        expect(passage.passes).toBe(passage.widthLeft >= 0 && passage.heightLeft >= 0);
        expect(passage.widthLeft).toBeCloseTo(w - 2 * deckhand.radius, 9);
        expect(passage.heightLeft).toBeCloseTo(h - deckhand.height, 9);
      }),
    );
    expect(passageOf(opening(1, 1.8, 0.2, 'z'), deckhand).passes).toBeTrue();
    expect(passageOf(opening(1, 1.79, 0.2, 'z'), deckhand).passes).toBeFalse();
    expect(passageOf(opening(0.2, 2, 1, 'x'), deckhand).passes).toBeFalse();
  });

  it('pass as before when the piece was turned onto its other axis: what stands upright is the height', () => {
    const door = opening(1, 2, 0.4, 'z');
    // A quarter turn about the way through: what was its width stands upright.
    const turned = {
      ...door,
      rotation: [0, 0, Math.SQRT1_2, Math.SQRT1_2] as [number, number, number, number],
    };
    expect([passageOf(turned, deckhand).width, passageOf(turned, deckhand).height]).toEqual([2, 1]);
    const askew = { ...door, rotation: [0, 0.6, 0, 0.8] as [number, number, number, number] };
    expect([passageOf(askew, deckhand).width, passageOf(askew, deckhand).height]).toEqual([1, 2]);
  });

  it('keeps the room that a yard wants beside who passes', () => {
    const deckhand = FIRST_AGENTS.find(({ id }) => id === 'deckhand')!;
    const door = opening(0.8, 2, 0.2, 'z');
    expect([0, 0.04, 0.06].map((margin) => passageOf(door, deckhand, margin).passes)).toEqual([
      true,
      true,
      false,
    ]);
  });
});
