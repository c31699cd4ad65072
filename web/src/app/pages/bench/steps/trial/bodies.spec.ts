import {
  bodyTrialKey,
  type BodyTrial,
  type BodyTrialAsk,
  bodyTrialText,
  costText,
  proxyKey,
  replaceProxies,
  type Shape,
  takesOf,
  type TrialCost,
} from '@yard-brace/core';
import { type Playing, TrialPlayer } from '../../../../state/trial-player';
import { TrialStore } from '../../../../state/trial-store';
import { type TestBench, testBench } from '../../../../testing/bench';
import { BodiesPanel } from './bodies-panel';
import { CostPanel } from './cost-panel';

const BALL: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
const ASK: BodyTrialAsk = { kind: 'pour', balls: 100 };
const PLAYED = { bodies: 1, frames: 3, poses: new Float32Array(21), origin: [0, 0, 0] };

describe('trials with bodies', () => {
  let bench: TestBench;
  const poured = (inside: number): BodyTrial => ({
    kind: 'pour',
    key: bodyTrialKey(bench.store.document, ASK, takesOf(bench.store.profile)),
    ask: ASK,
    balls: 100,
    inside,
    leaks: [],
  });
  const answer = (trial: BodyTrial) =>
    bench.jobs['bodyTrial']!.and.resolveTo({
      trial,
      played: PLAYED,
      moves: { kind: 'balls', radius: 0.1 },
      aside: [0, 0, 0],
    });

  beforeEach(async () => {
    bench = await testBench();
    bench.store.apply(replaceProxies([{ id: 'a', shape: BALL }]));
    await bench.store.measured({ key: proxyKey(bench.store.document), artOutside: 0, proxyOutside: 0 });
  });

  it('are asked for by the panel, kept with the piece and told; one of the same takes its place', async () => {
    const page = await bench.show(BodiesPanel);
    for (const inside of [97, 100]) {
      answer(poured(inside));
      page.one<HTMLButtonElement>('[data-testid=try-body]').click();
      await page.rest();
      expect(page.text).toContain(`${inside} of 100 balls stay inside`);
    }
    expect(bench.jobs['bodyTrial']!.calls.mostRecent().args[2]).toEqual(ASK);
    expect(bench.store.lastMeasured!.trials!.bodies.length).toBe(1);
    bench.store.apply(replaceProxies([{ id: 'a', shape: { ...BALL, radius: 2 } }]));
    await page.rest();
    expect(page.text).toContain('(before)');
  });

  it('are played from the start, stepped and closed', async () => {
    const player = bench.get(TrialPlayer);
    const trials = bench.get(TrialStore);
    let playing: Playing | null = null as Playing | null;
    player.playing$.subscribe((now) => (playing = now));
    answer(poured(100));
    await trials.tryBody(ASK);
    expect(playing).toEqual(jasmine.objectContaining({ frame: 0, running: true }));
    player.step();
    player.step();
    player.step();
    // It ends with its last frame.
    expect(playing).toEqual(jasmine.objectContaining({ frame: 2, running: false }));
    player.set({ running: true });
    expect(playing!.frame).toBe(0);
    player.stop();
    expect(playing).toBeNull();
  });

  it('say in one line how each went', () => {
    const { document } = bench.store;
    const key = 'a'.repeat(64);
    const say = (trial: object) => bodyTrialText({ key, ...trial } as BodyTrial, document).text;
    expect(
      say({ kind: 'roll', what: 'barrel', sides: 6, metres: 0.9, wobble: 0.0393, jolts: 2, stoppedBy: 'a' }),
    ).toBe('900.0 mm, goes up and down by 39.3 mm, stopped by shape 1');
    expect(say({ kind: 'drop', side: '−y', settled: 1.13, tipped: 0.2, rolled: 0 })).toBe(
      'still after 1.1 s, tipped 0°',
    );
    expect(say({ kind: 'drop', side: '+x', settled: null, tipped: 90, rolled: 1 })).toBe('never lies still');
    expect(
      say({ kind: 'swing', part: 'x', opens: [0, 90], hits: [{ degrees: 61.24, leaf: 'a', rest: 'a' }] }),
    ).toBe('meets shape 1 at 61.2°');
    expect(say({ kind: 'swing', part: 'x', opens: [0, 90], hits: [] })).toBe('free over 0° to 90°');
    expect(say({ kind: 'slide', edge: 'e', length: 2, jolts: [], snags: [], lost: 0 })).toBe('smoothly');
    expect(
      say({
        kind: 'slide',
        edge: 'e',
        length: 2,
        jolts: [{ along: 1, metres: 0.02, at: [0, 0, 0], shape: null }],
        snags: [],
        lost: 0.6,
      }),
    ).toBe('1 jolt of up to 20.0 mm, lies on nothing for 600.0 mm');
    const driven = { kind: 'drive', metres: 1.2, at: [0, 0, 0], airborne: 3, wrongWay: null, marks: [] };
    expect(say({ ...driven, end: 'stopped' })).toBe('is stopped after 1.20 m');
    expect(say({ ...driven, end: 'falls', wrongWay: 'a' })).toBe(
      'falls through after 1.20 m, the faces of shape 1 look down',
    );
    const mark = { kind: 'jolt', at: [0, 0, 0], metres: 0.02, shape: 'a' };
    expect(say({ ...driven, end: 'through', marks: [mark, { ...mark, kind: 'caught' }] })).toBe(
      'drives through after 1.20 m, 1 jolt of up to 20.0 mm, caught in 1 place',
    );
  });

  it('measure what copies cost, in a curve and one sentence', async () => {
    const point = (copies: number, step: number, bytes: number) => ({ copies, build: 1, step, bytes });
    const cost: TrialCost = {
      key: bodyTrialKey(bench.store.document, null, takesOf(bench.store.profile)),
      shapes: [point(1, 0.2, 5e4), point(500, 0.32, 2.16e6)],
      triangles: [point(1, 0.2, 2e6), point(500, 31, 9.5e8)],
    };
    expect(costText(cost)).toBe(
      '500 of these cost 0.32 ms a step and 2.2 MB; their triangles would cost 31 ms a step and 950 MB.',
    );
    expect(costText({ ...cost, triangles: cost.triangles.slice(0, 1) })).toContain(
      'the triangles of 1 cost 0.20 ms a step and 2.0 MB already.',
    );
    bench.jobs['trialCost']!.and.resolveTo(cost);
    const page = await bench.show(CostPanel);
    page.one<HTMLButtonElement>('[data-testid=measure-cost]').click();
    await page.rest();
    expect(page.one('[data-testid=cost-says]').textContent).toContain('500 of these cost');
    expect(page.text).not.toContain('measure again');
    bench.store.apply(replaceProxies([{ id: 'a', shape: { ...BALL, radius: 2 } }]));
    await page.rest();
    expect(page.text).toContain('measure again');
  });
});
