import {
  type Agent,
  type Clearance,
  FIRST_AGENTS,
  type Shape,
  type Vec3,
  walkPassed,
} from '@yard-brace/core';
import { artOf, box, setOf, STAIR, STAIR_SLOPE, TRESTLE } from '../testing/solids.js';
import { NothingToTryError } from './trial-world.js';
import { walkTrial } from './walk-trial.js';

const [RIG, DECKHAND, GULL] = FIRST_AGENTS as [Agent, Agent, Agent];

const tried = async (
  art: readonly Shape[],
  shapes: readonly Shape[],
  { agent = DECKHAND, clearances = [] as Clearance[] } = {},
) => {
  const found = await walkTrial({
    shapes: setOf(shapes),
    art: artOf(art),
    clearances,
    agent,
    limits: { joltMetres: 0.05 },
  });
  return { ...found, passes: walkPassed({ ...found, key: '' }) };
};

const moved = (shape: Shape, by: Vec3): Shape =>
  shape.kind === 'box' ? { ...shape, center: shape.center.map((v, k) => v + by[k]!) as Vec3 } : shape;

describe('a trial on foot', () => {
  it('passes a piece whose shapes are its art, in every list', async () => {
    const found = await tried([box([0, 0.5, 0], [1, 0.5, 0.5])], [box([0, 0.5, 0], [1, 0.5, 0.5])]);
    expect(found).toEqual(
      jasmine.objectContaining({
        passes: true,
        contacts: [],
        blocked: [],
        stuck: [],
        falls: [],
        jolts: [],
        stumbles: [],
        slips: [],
      }),
    );
    expect(found.runs).toBeGreaterThan(50);
  });

  it('is shaken on a stepped stair, and not on its slope', async () => {
    const stepped = await tried(STAIR, STAIR);
    expect(stepped.passes).toBeFalse();
    expect(stepped.jolts[0]!.metres).toBeCloseTo(0.18, 3);
    expect(Math.max(...stepped.jolts.map(({ count }) => count))).toBe(8);
    const slope = await tried(STAIR, STAIR_SLOPE);
    expect(slope.jolts).toEqual([]);
    expect(slope.passes).toBeTrue();
    // Over the back of each tread the slope is as high as a step.
    const [hover] = slope.contacts.filter(({ where }) => where === 'foot');
    expect(hover).toEqual(jasmine.objectContaining({ kind: 'air', shape: 'shape-1' }));
    expect(hover!.metres).toBeGreaterThan(0.1);
    expect(hover!.metres).toBeLessThanOrEqual(0.181);
  });

  it('stumbles over an edge that the art has not, and not over one that it has', async () => {
    const deck = box([0, 0.1, 0], [2, 0.1, 1]);
    const ledge = box([0, 0.22, 0], [0.3, 0.02, 1]);
    const high = box([0, 0.15, 0], [0.3, 0.15, 1]);
    expect((await tried([deck], [deck])).stumbles).toEqual([]);
    expect((await tried([deck, high], [deck, high])).stumbles).toEqual([]);
    // 40 mm are below the limit of a jolt.
    expect((await tried([deck], [deck, ledge])).stumbles).toEqual([]);
    const { stumbles } = await tried([deck], [deck, high]);
    expect(stumbles[0]!.metres).toBeCloseTo(0.1, 3);
    expect(stumbles.some(({ shape }) => shape === 'shape-2')).toBeTrue();
    // A stair shakes; it is no stumble.
    expect((await tried(STAIR, STAIR)).stumbles).toEqual([]);
  });

  it('is stopped by air under a trestle that is one box, and walks through the good set', async () => {
    const one = await tried(TRESTLE, [box([0, 1.1, 0], [1.5, 1.1, 1.1])]);
    expect(one.passes).toBeFalse();
    expect(one.blockedCount).toBeGreaterThan(0);
    expect(one.blocked[0]!.shape).toBe('shape-1');
    expect(one.blocked[0]!.metres).toBeGreaterThan(0.5);
    expect((await tried(TRESTLE, TRESTLE)).passes).toBeTrue();
  });

  it('measures the air before a wall, and the art that reaches through one', async () => {
    const art = [box([0, 1, 0], [0.5, 1, 2])];
    const stopped = await tried(art, [box([0, 1, 0], [0.62, 1, 2])]);
    const side = stopped.contacts.filter(({ where }) => where === 'side');
    expect(side[0]).toEqual(jasmine.objectContaining({ kind: 'air', shape: 'shape-1' }));
    expect(side[0]!.metres).toBeCloseTo(0.12, 3);
    const reached = await tried(art, [box([0, 1, 0], [0.4, 1, 2])]);
    const through = reached.contacts.filter(({ kind, where }) => kind === 'through' && where === 'side');
    expect(through[0]!.metres).toBeCloseTo(0.1, 2);
  });

  it('falls where the art carries it and no shape does', async () => {
    const legs = [box([-1.9, 0.5, 0], [0.1, 0.5, 1]), box([1.9, 0.5, 0], [0.1, 0.5, 1])];
    const deck = [box([0, 1, 0], [2, 0.1, 1]), ...legs];
    const found = await tried(deck, [box([-1, 1, 0], [1, 0.1, 1]), ...legs]);
    expect(found.passes).toBeFalse();
    expect(found.falls[0]!.metres).toBeCloseTo(1.1, 3);
    expect(found.falls.every(({ at }) => at[0] > 0)).toBeTrue();
    const none = await tried([box([0, 1, 0], [2, 1, 1])], []);
    expect(none.falls[0]!.metres).toBeCloseTo(2, 3);
  });

  it('tells an agent that is too large for an opening what is missing', async () => {
    const wall = [box([0, 2, -3], [0.2, 2, 2]), box([0, 2, 3], [0.2, 2, 2]), box([0, 3.2, 0], [0.2, 0.8, 1])];
    const door: Clearance = {
      id: 'c1',
      name: 'cart hatch',
      center: [0, 1.2, 0],
      halfExtents: [0.2, 1.2, 1],
      rotation: [0, 0, 0, 1],
      through: 'x',
    };
    const passes = await tried(wall, wall, { clearances: [door] });
    expect(passes.openings[0]).toEqual(
      jasmine.objectContaining({ id: 'c1', passes: true, missingMetres: 0, width: 2, height: 2.4 }),
    );
    const rig = await tried(wall, wall, { agent: RIG, clearances: [door] });
    expect(rig.openings[0]).toEqual(
      jasmine.objectContaining({ passes: false, missingWidth: 0.2, missingHeight: 0.8, missingMetres: 0.8 }),
    );
    expect(rig.passes).toBeFalse();
  });

  it('says how much air is over its head where it jumps under a top that is filled', async () => {
    const top = box([0, 2.4, 0], [1.5, 0.1, 1.5]);
    const legs = [box([-1.4, 1.2, 0], [0.1, 1.2, 1.5]), box([1.4, 1.2, 0], [0.1, 1.2, 1.5])];
    const found = await tried([top, ...legs], [box([0, 2.25, 0], [1.5, 0.25, 1.5]), ...legs]);
    const [head] = found.contacts.filter(({ where }) => where === 'head');
    expect(head).toEqual(jasmine.objectContaining({ kind: 'air', shape: 'shape-1' }));
    expect(head!.metres).toBeCloseTo(0.3, 2);
  });

  it('comes to the same twice, and to the same a thousand kilometres away', async () => {
    const once = await tried(TRESTLE, TRESTLE);
    expect(await tried(TRESTLE, TRESTLE)).toEqual(once);
    const far: Vec3 = [1e6, 0, -1e6];
    const there = await tried(
      TRESTLE.map((each) => moved(each, far)),
      TRESTLE.map((each) => moved(each, far)),
    );
    expect({ runs: there.runs, passes: there.passes }).toEqual({ runs: once.runs, passes: once.passes });
  });

  it('copes with a piece that is too small to be felt, smaller than the agent, or open', async () => {
    const speck = await tried(
      [box([0, 1e-4, 0], [1e-4, 1e-4, 1e-4])],
      [box([0, 1e-4, 0], [1e-4, 1e-4, 1e-4])],
    );
    expect(speck.passes).toBeTrue();
    const post = [box([0, 0.4, 0], [0.05, 0.4, 0.05])];
    expect((await tried(post, post, { agent: RIG })).passes).toBeTrue();
    expect((await tried(post, post, { agent: GULL })).passes).toBeTrue();
    const triangle: Shape = { kind: 'surface', points: [0, 0, 0, 2, 0, 0, 0, 2, 0], indices: [0, 1, 2] };
    expect((await tried([triangle], [])).falls).toEqual([]);
  });

  it('refuses a piece without art in one sentence', async () => {
    await expectAsync(tried([], [box([0, 1, 0], [1, 1, 1])])).toBeRejectedWithError(
      NothingToTryError,
      'The piece has no art that collides; there is nothing to walk at.',
    );
  });
});
