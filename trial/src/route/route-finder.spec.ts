import { type Agent, FIRST_AGENTS, meshBounds, type Shape, type Vec3 } from '@yard-brace/core';
import { artOf, box, STAIR, STAIR_SLOPE, TRESTLE } from '../testing/solids.js';
import { RouteFinder } from './route-finder.js';
import { groundOfArt, routeGround } from './trial-routes.js';

const [RIG, DECKHAND, GULL] = FIRST_AGENTS as [Agent, Agent, Agent];

async function finder(
  shapes: readonly Shape[],
  agent = DECKHAND,
  origin: Vec3 = [0, 0, 0],
): Promise<RouteFinder> {
  const art = artOf(shapes);
  return RouteFinder.of(routeGround([groundOfArt(art)], meshBounds(art), origin[1], agent), agent, origin);
}

describe('a route', () => {
  it('goes up a stair and up its slope, as long as that is', async () => {
    for (const set of [STAIR, STAIR_SLOPE]) {
      const routes = await finder(set);
      const up = routes.route([0, 0, 0], [4, 1.44, 0])!;
      expect(up.complete).toBeTrue();
      expect(up.length).toBeGreaterThan(4.1);
      expect(up.length).toBeLessThan(4.7);
      routes.free();
    }
  });

  it('leads round a wall, and ends before it for one that does not fit through', async () => {
    const wall = (gap: number) => [
      box([0, 1.5, -2.6 - gap / 2], [0.1, 1.5, 2.6]),
      box([0, 1.5, 2.6 + gap / 2], [0.1, 1.5, 2.6]),
    ];
    const through = async (gap: number, agent: Agent) => {
      const routes = await finder(wall(gap), agent);
      const found = routes.route([-2 * agent.radius, 0, 0], [2 * agent.radius, 0, 0]);
      routes.free();
      return found;
    };
    const straight = (await through(1, DECKHAND))!;
    expect(straight.complete).toBeTrue();
    expect(straight.length).toBeCloseTo(1.4, 1);
    const round = (await through(0.5, DECKHAND))!;
    expect(round.length).toBeGreaterThan(9);
    expect((await through(0.5, GULL))!.length).toBeCloseTo(0.6, 1);
  });

  it('tells islands apart, the largest first, with their areas', async () => {
    const routes = await finder([box([0, 1, 0], [2, 1, 2])], DECKHAND);
    const { islands, indices, island } = routes.area;
    expect(islands.length).toBeGreaterThanOrEqual(2);
    const top = islands.find(({ at }) => at[1] > 1.9)!;
    // The agent keeps its radius off every edge.
    expect(Math.abs(top.area - 3.3 ** 2)).toBeLessThan(1);
    expect(island.length).toBe(indices.length / 3);
    expect(routes.route([-2.7, 0, 0], [0, 2, 0])?.complete ?? false).toBeFalse();
    routes.free();
  });

  it('leaves no ground inside what is solid', async () => {
    const art = artOf([box([0, 2, 0], [2, 2, 2])]);
    const ground = routeGround([groundOfArt(art)], meshBounds(art), 0, DECKHAND);
    const inside = (at: Vec3) => Math.abs(at[0]) < 2 && Math.abs(at[2]) < 2 && at[1] < 4 - 0.1;
    const routes = await RouteFinder.of(ground, DECKHAND, [0, 0, 0], { isInside: inside });
    expect(routes.area.islands.some(({ at }) => inside(at))).toBeFalse();
    routes.free();
  });

  it('goes on under a trestle for who is low enough', async () => {
    const routes = async (agent: Agent) => {
      const made = await finder(TRESTLE, agent);
      const found = made.route([-2.2, 0, 0], [2.2, 0, 0]);
      made.free();
      return found!;
    };
    expect((await routes(DECKHAND)).length).toBeCloseTo(4.4, 1);
    const rig = await routes({ ...RIG, radius: 0.5, step: 0.3 });
    expect(rig.length).toBeGreaterThan(5);
  });

  it('finds the same a thousand kilometres away', async () => {
    const far: Vec3 = [1e6, 0, 1e6];
    const here = await finder(TRESTLE);
    const there = await finder(
      TRESTLE.map((each) => ({ ...each, center: each.center.map((v, k) => v + far[k]!) as Vec3 })),
      DECKHAND,
      far,
    );
    const near = here.route([-2, 0, 0], [2, 0, 0])!;
    const off = there.route([1e6 - 2, 0, 1e6], [1e6 + 2, 0, 1e6])!;
    expect(off.complete).toBe(near.complete);
    expect(off.length).toBeCloseTo(near.length, 3);
    here.free();
    there.free();
  });

  it('jumps from one island to another where that is high enough to be jumped, and clear', async () => {
    const ledge = (top: number) => [box([1.5, top / 2, 0], [1.5, top / 2, 2])];
    const up = async (top: number, agent: Agent, more: Shape[] = []) => {
      const routes = await finder([...ledge(top), ...more], agent);
      const found = routes.route([-2 * agent.radius, 0, 0], [1.5, top, 0]);
      routes.free();
      return found;
    };
    const hopped = (await up(0.6, DECKHAND))!;
    expect([hopped.complete, hopped.jumps]).toEqual([true, 1]);
    // It steps 0.35 m and jumps 0.5 m.
    expect((await up(1, DECKHAND))?.complete ?? false).toBeFalse();
    expect((await up(1.8, GULL))!.jumps).toBe(1);
    expect((await up(0.3, DECKHAND))!.jumps).toBe(0);
    const art = artOf(ledge(0.6));
    const ground = routeGround([groundOfArt(art)], meshBounds(art), 0, DECKHAND);
    const shut = await RouteFinder.of(ground, DECKHAND, [0, 0, 0], { isClear: () => false });
    expect(shut.links).toEqual([]);
    shut.free();
  });

  it('is none where there is no ground', async () => {
    const routes = await RouteFinder.of({ points: [], indices: [] }, DECKHAND, [0, 0, 0]);
    expect(routes.area.islands).toEqual([]);
    expect(routes.route([0, 0, 0], [1, 0, 0])).toBeNull();
    routes.free();
  });
});
