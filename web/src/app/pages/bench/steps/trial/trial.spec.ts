import {
  askedTrials,
  FIRST_AGENTS,
  proxyKey,
  replaceProxies,
  type Shape,
  takesOf,
  type WalkTrial,
  walkTrialKey,
} from '@yard-brace/core';
import { HandWalkStore } from '../../../../state/hand-walk';
import { TrialStore } from '../../../../state/trial-store';
import { ViewMarks } from '../../../../state/view-marks';
import { type TestBench, testBench } from '../../../../testing/bench';
import { Stopped } from '../../../../workers/compute';
import { TrialStep } from './trial-step';

const [RIG, DECKHAND] = FIRST_AGENTS;
const BALL: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
const FRAME = { at: [0, 0, 3], height: 1.8, stands: true, stoppedBy: null };

describe('the trial step', () => {
  let bench: TestBench;
  let trials: TrialStore;
  const key = (agent = DECKHAND!) =>
    walkTrialKey(
      bench.store.document,
      agent,
      askedTrials(bench.store.document, bench.store.rules),
      takesOf(bench.store.profile),
    );
  const walked = (change: Partial<WalkTrial> = {}): WalkTrial => ({
    key: key(),
    agent: DECKHAND!.id,
    runs: 192,
    openings: [],
    contacts: [],
    contactCount: 0,
    blocked: [],
    blockedCount: 0,
    stuck: [],
    falls: [],
    fallCount: 0,
    jolts: [],
    slips: [],
    routes: [],
    ...change,
  });
  const stamp = () => {
    let found = '';
    bench.store.judged$.subscribe(({ tally }) => (found = tally.trial)).unsubscribe();
    return found;
  };

  beforeEach(async () => {
    bench = await testBench();
    trials = bench.get(TrialStore);
    bench.store.apply(replaceProxies([{ id: 'a', shape: BALL }]));
    await bench.store.measured({ key: proxyKey(bench.store.document), artOutside: 0, proxyOutside: 0 });
  });

  it('has no stamp before anybody walked, and a clear one when it passed', async () => {
    expect(stamp()).toBe('none');
    bench.jobs['walkTrials']!.and.resolveTo([walked()]);
    await trials.walk([DECKHAND!]);
    expect(stamp()).toBe('clear');
    // Kept with the piece, and out of date with the shapes.
    expect(bench.store.lastMeasured!.trials!.walks.length).toBe(1);
    bench.store.apply(replaceProxies([{ id: 'a', shape: { ...BALL, radius: 1.2 } }]));
    expect(stamp()).toBe('look');
    bench.store.undo();
    expect(stamp()).toBe('clear');
  });

  it('keeps walks of other agents, and takes the place of the same one’s', async () => {
    bench.jobs['walkTrials']!.and.resolveTo([walked({ agent: RIG!.id, key: key(RIG) })]);
    await trials.walk([RIG!]);
    for (const runs of [10, 20]) {
      bench.jobs['walkTrials']!.and.resolveTo([walked({ runs })]);
      await trials.walk([DECKHAND!]);
    }
    expect(bench.store.lastMeasured!.trials!.walks.map(({ agent, runs }) => [agent, runs])).toEqual([
      ['gantry-rig', 192],
      ['deckhand', 20],
    ]);
  });

  it('says nothing of a walk that was stopped, and one sentence of one that failed', async () => {
    bench.jobs['walkTrials']!.and.rejectWith(new Stopped('Stopped.'));
    await trials.walk([DECKHAND!]);
    expect([bench.said(), stamp()]).toEqual(['', 'none']);
    bench.jobs['walkTrials']!.and.rejectWith(new Error('x is undefined'));
    await trials.walk([DECKHAND!]);
    expect(bench.said()).not.toContain('undefined');
    expect(bench.said()).not.toBe('');
  });

  it('lists what did not pass, the worst first; a click goes there and takes the shape', async () => {
    const from = { at: [0, 0, 3] as [number, number, number], way: [0, -1] as [number, number] };
    bench.jobs['walkTrials']!.and.resolveTo([
      walked({
        falls: [{ at: [1, 1, 0], shape: null, metres: 1.1, from: null }],
        fallCount: 1,
        blocked: [{ at: [0, 0, 1.4], shape: 'a', metres: 0.4, from }],
        blockedCount: 1,
        openings: [
          {
            id: 'c1',
            name: 'cart hatch',
            at: [0, 1, 0],
            passes: false,
            width: 0.56,
            height: 2,
            missingWidth: 0.14,
            missingHeight: 0,
            missingMetres: 0.14,
            shape: 'a',
          },
        ],
      }),
    ]);
    const page = await bench.show(TrialStep);
    page.one<HTMLButtonElement>('[data-testid=walk-all]').click();
    await page.rest();
    const lines = [...page.element.querySelectorAll('[data-line]')].map((each) =>
      [...each.children].map((child) => child.textContent!.trim()).filter(Boolean),
    );
    expect(lines).toEqual([
      ['1', 'falls through', '1.10 m'],
      ['2', 'stopped by air', '400.0 mm', 'shape 1', 'walk'],
    ]);
    expect(page.text).toContain('no route: 140.0 mm too narrow');
    expect(stamp()).toBe('stopped');
    let place: unknown = null;
    bench.get(ViewMarks).place$.subscribe((at) => (place = at));
    page.one<HTMLButtonElement>('[data-line=blocked-0] button').click();
    expect(place).toEqual([0, 0, 1.4]);
    expect([...bench.selection.selected.proxies]).toEqual(['a']);
    let flags: readonly { id: string }[] = [];
    trials.flags$.subscribe((all) => (flags = all));
    expect(flags.map(({ id }) => id)).toEqual(['fall-0', 'blocked-0']);
    page.fixture.destroy();
    expect(flags).toEqual([]);
  });

  it('offers nobody to walk while there are no shapes, and says why', async () => {
    bench.store.apply(replaceProxies([]));
    const page = await bench.show(TrialStep);
    expect(page.one<HTMLButtonElement>('[data-testid=walk-all]').disabled).toBeTrue();
    expect(page.text).toContain('Make some in step 5 first');
  });
});

describe('a walk by hand', () => {
  let bench: TestBench;
  let walk: HandWalkStore;
  beforeEach(async () => {
    bench = await testBench();
    walk = bench.get(HandWalkStore);
    bench.store.apply(replaceProxies([{ id: 'a', shape: BALL }]));
    bench.jobs['beginWalk']!.and.resolveTo(FRAME);
    bench.jobs['endWalk']!.and.resolveTo(undefined);
    bench.jobs['startWalkAt']!.and.callFake(async (at: unknown) => ({ ...FRAME, at }));
    bench.jobs['advanceWalk']!.and.callFake(async () => ({ frame: FRAME, contacts: [] }));
  });
  afterEach(() => walk.end());
  const asked = () => bench.jobs['advanceWalk']!.calls.mostRecent().args[0][0];

  it('steers by where it is looked from, a step at a time while it is paused', async () => {
    walk.heading = () => [1, 0];
    await walk.begin(DECKHAND!);
    walk.hold('ahead', true);
    await walk.step();
    expect(asked().way).toEqual([1, 0]);
    expect(walk.walking!.running).toBeFalse();
    walk.hold('right', true);
    walk.hold('ahead', false);
    walk.jump();
    await walk.step();
    expect(asked()).toEqual({ way: [0, 1], jump: true, crouch: false });
    walk.hold('right', false);
    walk.crouch(true);
    await walk.step();
    expect(asked()).toEqual({ way: null, jump: false, crouch: true });
  });

  it('walks at the shapes as they are now, from where it was, and ends with the piece', async () => {
    await walk.begin(DECKHAND!);
    bench.jobs['advanceWalk']!.and.resolveTo({ frame: { ...FRAME, at: [1, 0, 1] }, contacts: [] });
    await walk.step();
    bench.store.apply(replaceProxies([{ id: 'a', shape: { ...BALL, radius: 2 } }]));
    await new Promise((resolve) => setTimeout(resolve));
    expect(bench.jobs['beginWalk']!.calls.count()).toBe(2);
    expect(bench.jobs['startWalkAt']!.calls.mostRecent().args).toEqual([[1, 0, 1]]);
    walk.end();
    expect(walk.walking).toBeNull();
    expect(bench.jobs['endWalk']!).toHaveBeenCalledTimes(1);
  });

  it('shows the ground and the way, and forgets the way when it is steered', async () => {
    await walk.begin(DECKHAND!);
    const area = {
      positions: new Float64Array(),
      indices: new Uint32Array(),
      island: new Uint32Array(),
      islands: [],
    };
    bench.jobs['walkableArea']!.and.resolveTo(area);
    await walk.showArea('art');
    expect(walk.walking!.area).toBe(area);
    bench.jobs['walkTo']!.and.resolveTo({
      points: [
        [0, 0, 3],
        [0, 0, 0],
      ],
      complete: false,
    });
    await walk.goTo([0, 0, 0]);
    expect(walk.walking!.route!.complete).toBeFalse();
    walk.hold('left', true);
    expect(walk.walking!.route).toBeNull();
    await walk.showArea('none');
    expect(walk.walking!.area).toBeNull();
  });

  it('ends with one sentence when the engine breaks', async () => {
    await walk.begin(DECKHAND!);
    bench.jobs['advanceWalk']!.and.rejectWith(new Error('unreachable'));
    await walk.step();
    expect(walk.walking).toBeNull();
    expect(bench.said()).not.toBe('');
    expect(bench.said()).not.toContain('unreachable');
  });
});
