import { type Agent, FIRST_AGENTS, type Shape } from '@yard-brace/core';
import { artOf, box, setOf, STAIR, STAIR_SLOPE, TRESTLE } from '../testing/solids.js';
import { HandWalk, type WalkInput } from './hand-walk.js';

const DECKHAND = FIRST_AGENTS[1] as Agent;
const STAND: WalkInput = { way: null, jump: false, crouch: false };
const times = (count: number, input: Partial<WalkInput>) =>
  Array<WalkInput>(count).fill({ ...STAND, ...input });

const at = (art: readonly Shape[], shapes: readonly Shape[] = art) =>
  HandWalk.of(setOf(shapes), artOf(art), DECKHAND);

describe('a walk by hand', () => {
  it('goes where it is steered, the same twice', async () => {
    const walk = async () => {
      const hand = await at(TRESTLE);
      hand.startAt([-3, 0, 0]);
      const frames = hand.advance(times(240, { way: [1, 0] }));
      hand.free();
      return frames;
    };
    const once = await walk();
    expect(once.at(-1)!.at[0]).toBeCloseTo(3, 2);
    expect(await walk()).toEqual(once);
  });

  it('is stopped by air under one box, and tells how much of it, and which shape', async () => {
    const hand = await at(TRESTLE, [box([0, 1.1, 0], [1.5, 1.1, 1.1])]);
    hand.startAt([-3, 0, 0]);
    const frames = hand.advance(times(240, { way: [1, 0] }));
    expect(frames.at(-1)!.stoppedBy).toBe('shape-1');
    const [worst] = hand.contacts(10);
    expect(worst).toEqual(jasmine.objectContaining({ kind: 'air', where: 'side', shape: 'shape-1' }));
    expect(worst!.metres).toBeCloseTo(3, 1);
    hand.free();
  });

  it('walks to a goal by the route there is, up a stair’s slope', async () => {
    const hand = await at(STAIR, STAIR_SLOPE);
    hand.startAt([-0.2, 0, 1.4]);
    expect((await hand.goTo([4.2, 1.44, 0])).complete).toBeTrue();
    const frames = hand.advance(times(400, {}));
    expect(frames.at(-1)!.at[1]).toBeCloseTo(1.44, 2);
    hand.free();
  });

  it('jumps on its way where the route does', async () => {
    const hand = await at([box([1.5, 0.3, 0], [1.5, 0.3, 2])]);
    hand.startAt([-1, 0, 0]);
    expect((await hand.goTo([1.5, 0.6, 0])).complete).toBeTrue();
    expect(hand.advance(times(260, {})).at(-1)!.at[1]).toBeCloseTo(0.6, 2);
    hand.free();
  });

  it('jumps, and crouches under what is too low for it', async () => {
    const low = [box([0, 1.9, 0], [1, 0.4, 1])];
    const hand = await at([...low, box([0, 0.005, 6], [0.1, 0.005, 0.1])]);
    hand.startAt([-3, 0, 0]);
    const jumped = hand.advance([...times(2, {}), ...times(1, { jump: true }), ...times(60, {})]);
    expect(Math.max(...jumped.map((frame) => frame.at[1]))).toBeGreaterThan(0.45);
    hand.restart();
    expect(hand.advance(times(300, { way: [1, 0] })).at(-1)!.at[0]).toBeLessThan(-1.3);
    hand.restart();
    const under = hand.advance(times(120, { way: [1, 0], crouch: true }));
    expect(under.at(-1)!.at[0]).toBeCloseTo(0, 1);
    // It rises again only where there is room.
    expect(hand.advance(times(1, {})).at(-1)!.height).toBeCloseTo(1.08, 6);
    expect(hand.advance(times(200, { way: [1, 0] })).at(-1)!.height).toBeCloseTo(1.8, 6);
    hand.free();
  });

  it('shows where one can walk on the shapes, and on the art', async () => {
    const hand = await at(TRESTLE, [box([0, 1.1, 0], [1.5, 1.1, 1.1])]);
    const [onArt, onShapes] = [await hand.area('art'), await hand.area('shapes')];
    const under = (area: typeof onArt) =>
      Array.from({ length: area.positions.length / 3 }, (_, v) =>
        area.positions.slice(v * 3, v * 3 + 3),
      ).some(([x, y, z]) => Math.abs(x!) < 1 && y! < 0.1 && Math.abs(z!) < 0.6);
    expect(onArt.islands.length).toBeGreaterThan(0);
    expect(onShapes.islands[0]!.area).toBeLessThan(onArt.islands[0]!.area);
    expect(under(onShapes)).toBeFalse();
    hand.free();
  });
});
