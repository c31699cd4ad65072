import type { Bounds, Shape, Vec3 } from '@yard-brace/core';
import { box, setOf } from '../testing/solids.js';
import { drive } from './drive.js';
import { HandDrive } from './hand-drive.js';
import { FIRST_TROLLEY, type TrolleyInput } from './trolley.js';

const floor = (up: boolean): Shape => ({
  kind: 'surface',
  points: [-1, 0, -4, 1, 0, -4, 1, 0, 4, -1, 0, 4],
  indices: up ? [0, 2, 1, 0, 3, 2] : [0, 1, 2, 0, 2, 3],
});
const around: Bounds = { min: [-1, 0, -4], max: [1, 0.5, 4] };
const driven = (shapes: Shape[], from: Vec3 = [0, 0.02, -3], length = 5.5) =>
  drive({ shapes: setOf(shapes), around, trolley: FIRST_TROLLEY, from, way: [0, 1], length });

/** A slab along z whose top is at a height. */
const slab = (from: number, to: number, top: number): Shape =>
  box([0, top - 0.1, (from + to) / 2], [2, 0.1, (to - from) / 2]);

describe('a trolley that is driven', () => {
  it('drives over a floor whose faces look up, and falls through one that looks down', async () => {
    const over = await driven([floor(true)]);
    expect(over.end).toBe('through');
    expect(over.metres).toBeGreaterThan(5.4);
    expect([over.marks, over.wrongWay]).toEqual([[], null]);
    const through = await driven([floor(false)]);
    expect(through.end).toBe('falls');
    expect(through.wrongWay).toBe('shape-1');
    expect(await driven([floor(false)])).toEqual(through);
  });

  it('blames no face where there is no floor, and drives on where there is ground', async () => {
    const nothing = await driven([]);
    expect([nothing.end, nothing.wrongWay]).toEqual(['falls', null]);
    const ground = await drive({
      shapes: [],
      around,
      ground: 0,
      trolley: FIRST_TROLLEY,
      from: [0, 0.02, -3],
      way: [0, 1],
      length: 5.5,
    });
    expect(ground.end).toBe('through');
  });

  it('is stopped by a wall across, and falls at the end of the floor', async () => {
    const wall = await driven([floor(true), box([0, 0.3, 1], [1, 0.3, 0.1])]);
    expect(wall.end).toBe('stopped');
    expect(wall.metres).toBeLessThan(4);
    expect(wall.marks[0]).toEqual(jasmine.objectContaining({ kind: 'caught', shape: 'shape-2' }));
    expect((await driven([floor(true)], [0, 0.02, 0], 9)).end).not.toBe('through');
  });

  it('jolts at a seam by as much as one side stands up, and not where the sides are level or a slope begins', async () => {
    const step = await driven([slab(-4, 0, 0), slab(0, 4, 0.02)]);
    expect(step.end).toBe('through');
    const [jolt] = step.marks;
    expect(jolt!.kind).toBe('jolt');
    expect(jolt!.metres).toBeCloseTo(0.02, 4);
    expect(Math.abs(jolt!.at[2])).toBeLessThan(0.03);
    expect(jolt!.shape).toBe('shape-2');
    expect((await driven([slab(-4, 0, 0), slab(0, 4, 0)])).marks).toEqual([]);
    const slope: Shape = {
      kind: 'hull',
      points: [-2, -1, 0, 2, -1, 0, -2, 0, 0, 2, 0, 0, -2, -1, 4, 2, -1, 4, -2, 0.4, 4, 2, 0.4, 4],
      faces: [
        [0, 2, 3, 1],
        [4, 5, 7, 6],
        [0, 1, 5, 4],
        [2, 6, 7, 3],
        [0, 4, 6, 2],
        [1, 3, 7, 5],
      ],
    };
    expect((await driven([slab(-4, 0, 0), slope])).marks).toEqual([]);
  });
});

describe('a trolley driven by hand', () => {
  const begun = (shapes: Shape[] = [slab(-8, 8, 0)]) =>
    HandDrive.of({
      shapes: setOf(shapes),
      around: { min: [-2, 0, -8], max: [2, 0.5, 8] },
      ground: null,
      trolley: FIRST_TROLLEY,
      from: [0, 0.02, -3],
      way: [0, 1],
    });
  const steps = (count: number, input: Partial<TrolleyInput>) =>
    Array.from({ length: count }, () => ({ pace: 0, turn: 0, ...input }));

  it('goes ahead, backwards, and round to the side that its wheels are turned to', async () => {
    const hand = await begun();
    const ahead = hand.advance(steps(160, { pace: 1.5 })).at(-1)!;
    expect(ahead.at[2]).toBeGreaterThan(-2);
    expect(ahead.at[0]).toBeCloseTo(0, 3);
    expect([ahead.touching, ahead.state]).toEqual([4, 'drives']);
    expect(ahead.pace).toBeCloseTo(1.5, 1);
    const back = hand.advance(steps(300, { pace: -1 })).at(-1)!;
    expect(back.at[2]).toBeLessThan(ahead.at[2] - 1);
    expect(back.pace).toBeLessThan(0);
    await hand.restart();
    // Left of +z is +x.
    expect(hand.advance(steps(200, { pace: 1.5, turn: 1 })).at(-1)!.at[0]).toBeGreaterThan(0.3);
    await hand.restart();
    expect(hand.advance(steps(200, { pace: 1.5, turn: -1 })).at(-1)!.at[0]).toBeLessThan(-0.3);
    hand.free();
  });

  it('gives the same drive for the same inputs, also from the start again and from elsewhere', async () => {
    const inputs = [...steps(80, { pace: 1.5 }), ...steps(60, { pace: 1, turn: 0.5 })];
    const hand = await begun();
    const first = hand.advance(inputs);
    await hand.restart();
    expect(hand.advance(inputs)).toEqual(first);
    const there = await hand.startAt([0.5, 0, 2]);
    expect(there.at[0]).toBeCloseTo(0.5, 3);
    expect(there.at[2]).toBeCloseTo(2, 3);
    hand.free();
  });

  it('stands braked on a slope, and comes to lie where nothing is left to fall on', async () => {
    const slope: Shape = {
      kind: 'surface',
      points: [-2, 2, -8, 2, 2, -8, 2, -2, 8, -2, -2, 8],
      indices: [0, 2, 1, 0, 3, 2],
    };
    const hand = await begun([slope]);
    await hand.startAt([0, 0.5, -2]);
    const frames = hand.advance(steps(400, {}));
    const [settled, last] = [frames[100]!, frames.at(-1)!];
    expect(last.touching).toBe(4);
    expect(Math.hypot(last.at[0] - settled.at[0], last.at[2] - settled.at[2])).toBeLessThan(0.005);
    await hand.startAt([3, 0, 0]);
    const fallen = hand.advance(steps(200, {})).slice(-2);
    expect(fallen[0]!.state).toBe('falls');
    expect(fallen[1]).toEqual(fallen[0]!);
    hand.free();
  });

  it('tells that the floor it falls through looks down', async () => {
    const hand = await begun([floor(false)]);
    const last = hand.advance(steps(60, {})).at(-1)!;
    expect([last.state, last.wrongWay]).toEqual(['falls', 'shape-1']);
    hand.free();
  });
});
