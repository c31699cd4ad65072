import { type Bounds, type Shape, type Vec3 } from '@yard-brace/core';
import { artOf, box, setOf } from '../testing/solids.js';
import { cost, COST_COPIES } from './cost.js';
import { drop } from './drop.js';
import { pour } from './pour.js';
import { roll, type Roller } from './roll.js';
import { slide } from './slide.js';
import { swing } from './swing.js';

const TRAY: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 0.2, 0.5] };
/** A tray of a floor and four walls; without its floor, things fall through. */
const tray = (floor = true): Shape[] => [
  ...(floor ? [box([0, 0.01, 0], [0.5, 0.01, 0.5])] : []),
  box([-0.49, 0.1, 0], [0.01, 0.1, 0.5]),
  box([0.49, 0.1, 0], [0.01, 0.1, 0.5]),
  box([0, 0.1, -0.49], [0.5, 0.1, 0.01]),
  box([0, 0.1, 0.49], [0.5, 0.1, 0.01]),
];

describe('balls poured into a container', () => {
  it('stay in one of walls and a floor, all of them, the same twice', async () => {
    const poured = await pour({ shapes: setOf(tray()), container: TRAY });
    expect([poured.balls, poured.inside, poured.leaks]).toEqual([100, 100, []]);
    expect(poured.played.bodies).toBe(100);
    expect((await pour({ shapes: setOf(tray()), container: TRAY })).played.poses).toEqual(
      poured.played.poses,
    );
  });

  it('leave where there is no floor, and lie on top of one closed shape', async () => {
    const through = await pour({ shapes: setOf(tray(false)), container: TRAY });
    expect(through.inside).toBe(0);
    expect(through.leaks.every(([x, y, z]) => Math.abs(x) < 0.6 && y < 0 && Math.abs(z) < 0.6)).toBeTrue();
    const lid = await pour({ shapes: setOf([box([0, 0.1, 0], [0.5, 0.1, 0.5])]), container: TRAY });
    expect(lid.inside).toBeLessThan(100);
  });

  it('are none without a container', async () => {
    const flat: Bounds = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
    expect((await pour({ shapes: [], container: flat })).inside).toBe(0);
  });
});

describe('something that rolls', () => {
  const rolled = (roller: Roller, shapes: Shape[] = []) =>
    roll({ shapes: setOf(shapes), ground: 0, roller, from: [-4, 0, 0], way: [1, 0] });
  const barrel = (sides: number | null): Roller => ({ kind: 'barrel', radius: 0.3, length: 0.8, sides });

  it('rolls the more smoothly the more sides it has', async () => {
    const [six, twelve, round] = await Promise.all([
      rolled(barrel(6)),
      rolled(barrel(12)),
      rolled(barrel(null)),
    ]);
    expect(round.wobble).toBeLessThan(0.005);
    expect(twelve.wobble).toBeGreaterThan(round.wobble);
    expect(six.wobble).toBeGreaterThan(twelve.wobble * 2);
    // A prism of six sides rises from its flat to its edge: r (1 - cos 30°).
    expect(six.wobble).toBeGreaterThan(0.3 * (1 - Math.cos(Math.PI / 6)) * 0.8);
    expect(round.metres).toBeGreaterThan(six.metres);
  });

  it('is stopped by what stands in its way, and told by what', async () => {
    const found = await rolled({ kind: 'ball', radius: 0.2 }, [box([0, 1, 0], [0.5, 1, 1])]);
    expect(found.metres).toBeLessThan(3.4);
    const free = await rolled({ kind: 'ball', radius: 0.2 });
    expect(free.metres).toBeGreaterThan(6);
    expect(free.stoppedBy).toBeNull();
  });

  it('is given the time that a longer way takes', async () => {
    const far = await roll({
      shapes: [],
      ground: 0,
      roller: { kind: 'ball', radius: 0.2 },
      from: [-15, 0, 0],
      way: [1, 0],
      length: 30,
    });
    expect(far.metres).toBeGreaterThan(25);
  });
});

describe('a piece that is dropped', () => {
  it('settles on its base, and tips from where it cannot stand', async () => {
    const crate = setOf([box([0, 0.5, 0], [0.5, 0.5, 0.5])]);
    const stands = await drop({ shapes: crate }, '−y');
    expect(stands.settled).not.toBeNull();
    expect(stands.tipped).toBeLessThan(1);
    const post = setOf([box([0, 1, 0], [0.05, 1, 0.05]), box([0.6, 1.9, 0], [0.6, 0.1, 0.1])]);
    const tips = await drop({ shapes: post }, '−y');
    expect(tips.tipped).toBeGreaterThan(45);
    expect(await drop({ shapes: post }, '−y')).toEqual(tips);
  });

  it('rolls off where it is round', async () => {
    const ball: Shape = { kind: 'sphere', center: [0, 0.5, 0], radius: 0.5 };
    expect((await drop({ shapes: setOf([ball]) }, '+x')).settled).not.toBeNull();
  });
});

describe('a part that swings', () => {
  const leaf = setOf([box([1, 1, 0], [1, 1, 0.05])]);
  const hinge = { at: [0, 0, 0] as Vec3, axis: [0, 1, 0] as Vec3 };

  it('meets what stands in its way at the right angle', async () => {
    // A thin post at 60° from where the leaf lies, met by its face half its thickness before.
    const angle = (60 * Math.PI) / 180;
    const post: Shape = {
      kind: 'cylinder',
      center: [1.5 * Math.cos(angle), 1, -1.5 * Math.sin(angle)],
      rotation: [0, 0, 0, 1],
      halfHeight: 1,
      bottomRadius: 0.02,
      topRadius: 0.02,
    };
    const { hits } = await swing({ leaf, rest: setOf([post]), ...hinge, from: 0, to: 90 });
    expect(hits.length).toBe(1);
    const met = 60 - (Math.asin((0.05 + 0.02) / 1.5) * 180) / Math.PI;
    expect(Math.abs(hits[0]!.degrees - met)).toBeLessThan(0.02);
    expect(hits[0]).toEqual(jasmine.objectContaining({ leaf: 'shape-1', rest: 'shape-1' }));
  });

  it('swings free where nothing stands, and off what it lies against', async () => {
    const free = await swing({
      leaf,
      rest: setOf([box([-2, 1, 0], [0.5, 1, 0.5])]),
      ...hinge,
      from: -80,
      to: 80,
    });
    expect(free.hits).toEqual([]);
    const stop = setOf([box([1.9, 1, 0.149], [0.1, 1, 0.1])]);
    const found = await swing({ leaf, rest: stop, ...hinge, from: -45, to: 45 });
    expect(found.hits.length).toBe(1);
    expect(found.hits[0]!.degrees).toBeLessThan(0);
    expect(Math.abs(found.hits[0]!.degrees)).toBeLessThan(1);
  });
});

describe('a board that slides along an edge', () => {
  const line: Vec3[] = [
    [-1, 1, 0.5],
    [1, 1, 0.5],
  ];
  const bar = (from: number, to: number, top: number): Shape =>
    box([(from + to) / 2, top / 2, 0], [(to - from) / 2, top / 2, 0.5]);

  it('slides smoothly along shapes that meet in one height', async () => {
    const found = await slide({ shapes: setOf([bar(-1, 0, 1), bar(0, 1, 1)]), line });
    expect(found.length).toBeCloseTo(2, 6);
    expect([found.jolts, found.snags, found.lost]).toEqual([[], [], 0]);
  });

  it('jolts and is caught where one stands up, and lies on nothing over a gap', async () => {
    const step = await slide({ shapes: setOf([bar(-1, 0, 1), bar(0, 1, 1.02)]), line });
    expect(step.snags.length).toBe(1);
    expect(step.jolts[0]!.metres).toBeCloseTo(0.02, 3);
    expect(step.jolts[0]).toEqual(jasmine.objectContaining({ shape: 'shape-2' }));
    // The board reaches a tenth of a metre ahead.
    expect(step.jolts[0]!.along).toBeCloseTo(0.9, 1);
    const gap = await slide({ shapes: setOf([bar(-1, -0.4, 1), bar(0.4, 1, 1)]), line });
    expect(gap.lost).toBeCloseTo(0.8 - 0.2, 1);
  });

  it('finds nothing along an edge without shapes', async () => {
    const found = await slide({ shapes: [], line });
    expect(found.lost).toBeCloseTo(2, 6);
  });
});

describe('what a set costs', () => {
  it('is measured for copies of it, beside the triangles of its art', async () => {
    const shapes = tray();
    const { shapes: solids, triangles } = await cost(setOf(shapes), artOf(shapes));
    expect(solids.map(({ copies }) => copies)).toEqual([...COST_COPIES]);
    expect(triangles.length).toBe(solids.length);
    for (const point of [...solids, ...triangles]) {
      expect(point.step).toBeGreaterThan(0);
      expect(point.build).toBeGreaterThan(0);
    }
    expect(solids.at(-1)!.bytes).toBeGreaterThan(solids[0]!.bytes);
  });
});
