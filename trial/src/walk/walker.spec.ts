import { type Agent, FIRST_AGENTS, type Shape, type Vec3 } from '@yard-brace/core';
import { StillWorld } from '../still-world.js';
import { box, STAIR } from '../testing/solids.js';
import { Walker, type Way } from './walker.js';

const DECKHAND = FIRST_AGENTS.find(({ id }) => id === 'deckhand')!;

async function worldOf(shapes: readonly Shape[], origin: Vec3 = [0, 0, 0]): Promise<StillWorld> {
  const world = await StillWorld.at(origin);
  shapes.forEach((shape, i) => world.addShape([shape], i));
  return world.addGround(origin[1], 50).ready();
}

function walk(world: StillWorld, from: Vec3, way: Way, steps: number, agent: Agent = DECKHAND) {
  const walker = new Walker(world, agent, from);
  const said = Array.from({ length: steps }, () => walker.step(way));
  return { at: walker.position, said, jolts: said.map(({ jolt }) => jolt).filter((jolt) => jolt !== 0) };
}

describe('a walker', () => {
  it('walks level ground at its pace', async () => {
    const { at, said } = walk(await worldOf([]), [0, 0, 0], [1, 0], 120);
    expect(at[0]).toBeCloseTo(3, 6);
    expect(at[1]).toBeCloseTo(0, 4);
    expect(said.every(({ ground }) => ground !== null)).toBeTrue();
  });

  it('is stopped by a wall at its radius, and slides along one that stands askew', async () => {
    const wall = await worldOf([box([2, 1, 0], [0.1, 1, 3])]);
    const { at, said } = walk(wall, [0, 0, 0], [1, 0], 200);
    expect(at[0]).toBeCloseTo(1.9 - 0.35 - 0.001, 3);
    expect(said.at(-1)!.touches[0]).toEqual(jasmine.objectContaining({ kind: 'side' }));
    const askew = walk(wall, [0, 0, 0], [Math.SQRT1_2, Math.SQRT1_2], 130);
    expect(askew.at[0]).toBeCloseTo(1.549, 3);
    expect(askew.at[2]).toBeGreaterThan(2);
  });

  it('climbs steps with a jolt each, and goes down them again', async () => {
    const stair = await worldOf(STAIR);
    const up = walk(stair, [0, 0, 0], [1, 0], 150);
    expect(up.at[1]).toBeCloseTo(1.44, 3);
    expect(up.jolts.length).toBe(8);
    for (const jolt of up.jolts) expect(jolt).toBeCloseTo(0.18, 3);
    const down = walk(stair, [4, 1.44, 0], [-1, 0], 180);
    expect(down.at[1]).toBeCloseTo(0, 3);
    expect(down.jolts.map((jolt) => Number(jolt.toFixed(2)))).toEqual(Array(8).fill(-0.18));
  });

  it('walks a slope up to its own without a jolt, and no steeper one', async () => {
    for (const [degrees, climbs] of [
      [20, true],
      [35, true],
      [44, true],
      [47, false],
      [70, false],
    ] as const) {
      const angle = (degrees * Math.PI) / 180;
      const ramp = box(
        [1 + Math.cos(angle) * 2 + Math.sin(angle) * 0.5, Math.sin(angle) * 2 - Math.cos(angle) * 0.5, 0],
        [2, 0.5, 1],
        degrees,
      );
      const { at, jolts } = walk(await worldOf([ramp]), [0, 0, 0], [1, 0], 100);
      expect(jolts).withContext(`${degrees}°`).toEqual([]);
      if (climbs)
        expect(at[1])
          .withContext(`${degrees}°`)
          .toBeCloseTo((at[0] - 1) * Math.tan(angle), 3);
      else expect(at[1]).withContext(`${degrees}°`).toBeLessThan(0.05);
    }
  });

  it('goes through what is as wide and as high as it is, and through nothing less', async () => {
    const through = async (width: number, height: number) => {
      const side = 1 + width / 2;
      const { at } = walk(
        await worldOf([
          box([2, 2, -side], [0.1, 2, 1]),
          box([2, 2, side], [0.1, 2, 1]),
          box([2, height + 1, 0], [0.1, 1, 3]),
        ]),
        [0, 0, 0],
        [1, 0],
        200,
      );
      return at[0] > 3;
    };
    expect(await through(0.702, 1.802)).toBeTrue();
    expect(await through(0.698, 1.9)).toBeFalse();
    expect(await through(0.9, 1.798)).toBeFalse();
  });

  it('walks over a gap that is narrower than a foot, and falls into a wider one', async () => {
    const floors = (gap: number) => [box([-2, 0.5, 0], [2, 0.5, 1]), box([2 + gap, 0.5, 0], [2, 0.5, 1])];
    expect(walk(await worldOf(floors(0.2)), [-1, 1, 0], [1, 0], 60).jolts).toEqual([]);
    const { at } = walk(await worldOf(floors(0.9)), [-1, 1, 0], [1, 0], 160);
    expect(at[1]).toBeLessThan(0.01);
  });

  it('comes down beside an edge that it steps off', async () => {
    const { at, said } = walk(await worldOf([box([0, 1, 0], [1, 1, 1])]), [0, 2, 0], [1, 0], 150);
    expect(at[1]).toBeCloseTo(0, 3);
    expect(said.at(-1)!.ground!.shape).toBe(-1);
  });

  it('jumps as high as it can, or as what is above lets it', async () => {
    const highest = async (shapes: Shape[]) => {
      const walker = new Walker(await worldOf(shapes), DECKHAND, [0, 0, 0]);
      walker.step(null);
      walker.jump();
      return Math.max(...Array.from({ length: 60 }, () => (walker.step(null), walker.position[1])));
    };
    expect(await highest([])).toBeCloseTo(0.5, 1);
    expect(await highest([box([0, 2.5, 0], [1, 0.5, 1])])).toBeCloseTo(0.199, 3);
  });

  it('meets a surface from its front only', async () => {
    const floor = (indices: number[]): Shape => ({
      kind: 'surface',
      points: [-2, 0.5, -2, 2, 0.5, -2, 2, 0.5, 2, -2, 0.5, 2],
      indices,
    });
    const stands = async (shape: Shape) => {
      const walker = new Walker(await worldOf([shape]), DECKHAND, [0, 0.7, 0]);
      for (let i = 0; i < 60; i++) walker.step(null);
      return walker.position[1];
    };
    expect(await stands(floor([0, 2, 1, 0, 3, 2]))).toBeCloseTo(0.5, 3);
    expect(await stands(floor([0, 1, 2, 0, 2, 3]))).toBeCloseTo(0, 3);
  });

  it('goes the same way a thousand kilometres from the origin, and twice the same', async () => {
    const shifted = (by: Vec3) => walk2(by);
    const walk2 = async (by: Vec3) => {
      const shapes = [box([2 + by[0], 1 + by[1], by[2]], [0.1, 1, 3], 0)];
      const { at } = walk(await worldOf(shapes, by), by, [1, 0], 200);
      return at.map((v, k) => v - by[k]!);
    };
    const near = await shifted([0, 0, 0]);
    expect(await shifted([0, 0, 0])).toEqual(near);
    (await shifted([1e6, 20, -1e6])).forEach((v, k) => expect(v).toBeCloseTo(near[k]!, 3));
  });
});
