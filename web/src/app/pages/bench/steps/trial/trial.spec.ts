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
import { HandDriveStore } from '../../../../state/hand-drive';
import { HandWalkStore } from '../../../../state/hand-walk';
import { Steering } from '../../../../state/steering';
import { TrialFlags } from '../../../../state/trial-flags';
import { TrialStore } from '../../../../state/trial-store';
import { ViewMarks } from '../../../../state/view-marks';
import { type TestBench, testBench } from '../../../../testing/bench';
import { Stopped } from '../../../../workers/compute';
import { DriveBar } from '../../../../ui/drive-bar';
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
    stumbles: [],
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
    bench.get(TrialFlags).flags$.subscribe((all) => (flags = all));
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
  let steering: Steering;
  beforeEach(async () => {
    bench = await testBench();
    walk = bench.get(HandWalkStore);
    steering = bench.get(Steering);
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
    steering.hold('ahead', true);
    await walk.step();
    expect(asked().way).toEqual([1, 0]);
    expect(walk.walking!.running).toBeFalse();
    steering.hold('right', true);
    steering.hold('ahead', false);
    steering.jump();
    await walk.step();
    expect(asked()).toEqual({ way: [0, 1], jump: true, crouch: false });
    steering.hold('right', false);
    steering.crouches = true;
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
    steering.hold('left', true);
    await walk.step();
    expect(walk.walking!.route).toBeNull();
    await walk.showArea('none');
    expect(walk.walking!.area).toBeNull();
  });

  it('keeps the worst that was felt with the piece, while it tells of the piece', async () => {
    await bench.store.measured({ key: proxyKey(bench.store.document), artOutside: 0, proxyOutside: 0 });
    const contact = (metres: number, where: 'side' | 'foot' = 'side') => ({
      at: [0, 0, 1] as [number, number, number],
      shape: 'a',
      from: null,
      kind: 'air' as const,
      where,
      metres,
    });
    const page = await bench.show(TrialStep);
    const felt = () =>
      [...page.element.querySelectorAll('[aria-label="Felt by hand"] li')].map((each) =>
        [...each.children].map((child) => child.textContent!.trim()).filter(Boolean),
      );
    for (const contacts of [[contact(0.1)], [contact(0.05), contact(0.02, 'foot')]]) {
      await walk.begin(DECKHAND!);
      bench.jobs['advanceWalk']!.and.resolveTo({ frame: FRAME, contacts });
      await walk.step();
      await page.rest();
      expect(felt().length).toBe(contacts.length);
      walk.end();
      await page.rest();
    }
    expect(bench.store.lastMeasured!.trials!.felt.map(({ agent, contacts }) => [agent, contacts])).toEqual([
      ['deckhand', [contact(0.1), contact(0.02, 'foot')]],
    ]);
    expect(felt()).toEqual([
      ['1', 'air at its side', '100.0 mm', 'shape 1'],
      ['2', 'air at its feet', '20.0 mm', 'shape 1'],
    ]);
    page.one<HTMLButtonElement>('[data-line=felt-0] button').click();
    expect([...bench.selection.selected.proxies]).toEqual(['a']);
    bench.store.apply(replaceProxies([{ id: 'a', shape: { ...BALL, radius: 2 } }]));
    await page.rest();
    expect(felt()).toEqual([]);
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

describe('a drive by hand', () => {
  let bench: TestBench;
  let drive: HandDriveStore;
  let steering: Steering;
  const TROLLEY = { track: 0.8, wheelbase: 1.1, wheelRadius: 0.15, clearance: 0.12 };
  const AT = {
    at: [0, 0.2, 3],
    turned: [0, 0, 0, 1],
    pace: 0,
    touching: 4,
    state: 'drives',
    wrongWay: null,
  };
  beforeEach(async () => {
    bench = await testBench();
    drive = bench.get(HandDriveStore);
    steering = bench.get(Steering);
    bench.store.apply(replaceProxies([{ id: 'a', shape: BALL }]));
    bench.jobs['beginDrive']!.and.resolveTo(AT);
    bench.jobs['endDrive']!.and.resolveTo(undefined);
    bench.jobs['advanceDrive']!.and.resolveTo({ frame: AT, marks: [] });
    bench.jobs['beginWalk']!.and.resolveTo(FRAME);
    bench.jobs['endWalk']!.and.resolveTo(undefined);
    bench.jobs['advanceWalk']!.and.resolveTo({ frame: FRAME, contacts: [] });
  });
  afterEach(() => {
    drive.end();
    bench.get(HandWalkStore).end();
  });
  const asked = () => bench.jobs['advanceDrive']!.calls.mostRecent().args[0][0];

  it('goes ahead, back and round as the keys are held, and brakes when they are let go', async () => {
    await drive.begin(TROLLEY, [1, 0]);
    expect(bench.jobs['beginDrive']!.calls.mostRecent().args.slice(2)).toEqual([TROLLEY, [1, 0]]);
    steering.hold('ahead', true);
    steering.hold('left', true);
    await drive.step();
    expect(asked()).toEqual({ pace: 1.5, turn: 1 });
    steering.hold('ahead', false);
    steering.hold('left', false);
    steering.hold('back', true);
    await drive.step();
    expect(asked().pace).toBeLessThan(0);
    steering.hold('back', false);
    await drive.step();
    expect(asked()).toEqual({ pace: 0, turn: 0 });
  });

  it('takes the keys from who walks, and gives them to who walks next', async () => {
    const walk = bench.get(HandWalkStore);
    const playing = spyOn(bench.get(TrialStore), 'stopPlaying').and.callThrough();
    await walk.begin(DECKHAND!);
    await drive.begin(TROLLEY, [1, 0]);
    // What was played before is out of the way.
    expect(playing).toHaveBeenCalledTimes(2);
    expect([walk.walking, drive.driving?.running]).toEqual([null, true]);
    await walk.begin(DECKHAND!);
    expect([drive.driving, walk.walking?.running]).toEqual([null, true]);
  });

  it('drives over the shapes as they are now, from where it was put by hand', async () => {
    await drive.begin(TROLLEY, [0, 1]);
    bench.jobs['startDriveAt']!.and.callFake(async (at: unknown) => ({ ...AT, at }));
    await drive.startAt([1, 0, 1]);
    bench.store.apply(replaceProxies([{ id: 'a', shape: { ...BALL, radius: 2 } }]));
    await new Promise((resolve) => setTimeout(resolve));
    expect(bench.jobs['beginDrive']!.calls.count()).toBe(2);
    expect(bench.jobs['beginDrive']!.calls.mostRecent().args[3]).toEqual([0, 1]);
    expect(bench.jobs['startDriveAt']!.calls.count()).toBe(2);
  });

  it('says in the band how it fares, and what happened to it', async () => {
    const band = await bench.show(DriveBar);
    expect(band.text).toBe('');
    await drive.begin(TROLLEY, [0, 1]);
    const at: [number, number, number] = [0, 0, 0];
    bench.jobs['advanceDrive']!.and.resolveTo({
      frame: { ...AT, pace: 1.46, touching: 0, state: 'falls', wrongWay: 'a' },
      marks: [
        { kind: 'caught', at, metres: 0.6, shape: 'a' },
        { kind: 'jolt', at, metres: 0.02, shape: 'a' },
      ],
    });
    await drive.step();
    await band.rest();
    expect(band.text).toContain(
      'Trolley, 1.5 m/s, 0 of 4 wheels stand; falls; the faces under it look down; 1 jolt of up to 20.0 mm; caught in 1 place',
    );
    const restart = [...band.element.querySelectorAll('button')].find(
      (each) => each.textContent!.trim() === 'Restart',
    )!;
    bench.jobs['restartDrive']!.and.resolveTo(AT);
    restart.click();
    await band.rest();
    expect(band.text).toContain('4 of 4 wheels stand');
    expect(band.text).not.toContain('falls');
  });
});
