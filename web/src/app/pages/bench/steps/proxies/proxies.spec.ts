import {
  Comparer,
  DecomposeError,
  type Ladder,
  type Make,
  plainMesh,
  replaceProxies,
  type Shape,
  type Vec3,
} from '@yard-brace/core';
import { DeviationStore } from '../../../../state/deviation-store';
import { Picking } from '../../../../state/picking';
import { Proposals } from '../../../../state/proposals';
import { LadderStore } from '../../../../state/ladder-store';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { postDocument, postPiece } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { stripArt } from '../../../../testing/strip';
import { deviationColors, LEGEND } from '../../../../viewport/deviation-paint';
import { Stopped } from '../../../../workers/compute';
import { AreasPanel } from './areas-panel';
import { DrawPanel } from './draw-panel';
import { ProposalBar } from '../../view/proposal-bar';
import { LadderPanel } from './ladder-panel';
import { MakePanel } from './make-panel';
import { RungsPanel, rungTitle, specksText } from './rungs-panel';
import { costText, ShapesPanel } from './shapes-panel';
import { WrapPanel } from './wrap-panel';

const box = (x: number, half: number): Shape => ({
  kind: 'box',
  center: [x, 0.5, 0.5],
  halfExtents: [half, 0.5, 0.5],
  rotation: [0, 0, 0, 1],
});
const art = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1], [0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]);
const comparer = new Comparer(art);
const rung = (shapes: Shape[]) => ({ shapes, figures: comparer.compare(shapes) });
const ladder: Ladder = {
  rungs: [rung([box(0.5, 0.5)]), rung([box(0.25, 0.25), box(0.75, 0.25)])],
  goodEnough: 1,
  specks: 2,
};

describe('the ladder', () => {
  let bench: TestBench;
  beforeEach(async () => {
    bench = await testBench(postPiece(postDocument()));
    bench.jobs['ladder']!.and.resolveTo({ ladder, now: null });
  });
  const run = async () => {
    const panel = await bench.show(LadderPanel);
    await panel.press('Break');
    return bench.show(RungsPanel);
  };
  const shapesShown = () => bench.proposals.proposal?.preview.proxies.map(({ shape }) => shape);
  const figure = (name: string) => bench.proposals.proposal!.figures.find((each) => each.name === name);

  it('is run for the chosen agent with the openings of the piece, and shows the rung that is good enough', async () => {
    const clearance = {
      id: 'c',
      name: 'hatch',
      center: [9, 9, 9] as Vec3,
      halfExtents: [1, 1, 1] as Vec3,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      through: 'z' as const,
    };
    bench.store.apply({ kind: 'set-clearances', clearances: [clearance] });
    const rungs = await run();
    const [, , request] = bench.jobs['ladder']!.calls.mostRecent().args;
    expect(request).toEqual(
      jasmine.objectContaining({ agentDetail: 0.04, maxShapes: 32, mayCross: true, primitives: true }),
    );
    expect(request.clearances).toEqual([
      { kind: 'box', center: [9, 9, 9], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] },
    ]);
    expect(shapesShown()!.length).toBe(2);
    expect(rungs.one('.on').textContent!.trim()).toBe('2');
    expect(rungs.one('.enough').textContent!.trim()).toBe('2');
    expect(figure('Openings kept free')).toEqual(
      jasmine.objectContaining({ now: '—', next: '1 of 1', good: true }),
    );
    expect(rungs.text).toContain('2 specks too small');
  });

  it('asks for what the person has set', async () => {
    const panel = await bench.show(LadderPanel);
    await panel.tick('Prefer primitives');
    await panel.type('Max shapes', '7');
    await panel.choose('Agent', 'No agent (full detail)');
    await panel.press('Break');
    const [, , request] = bench.jobs['ladder']!.calls.mostRecent().args;
    expect(request).toEqual(
      jasmine.objectContaining({ agentDetail: 0, maxShapes: 7, primitives: false, mayCross: true }),
    );
  });

  it('is walked by click and by arrow, the view following; kept as one edit with its intent', async () => {
    const rungs = await run();
    rungs.one('[data-rung="1"]').click();
    await rungs.rest();
    expect(shapesShown()).toEqual(ladder.rungs[0]!.shapes);
    expect(figure('Shapes')!.next).toBe('1');
    rungs.one('.rungs').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight' }));
    await rungs.rest();
    expect(shapesShown()!.length).toBe(2);
    rungs.one('.rungs').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight' }));
    expect(shapesShown()!.length).toBe(2);
    const { edit } = bench.proposals.proposal!;
    expect('intent' in edit && edit.intent).toEqual({
      op: 'ladder',
      parts: { by: 'all' },
      parameters: {
        maxShapes: 32,
        maxVertices: 32,
        primitives: true,
        mayCross: true,
        agent: 'deckhand',
        // On another piece it is as many as are good enough there.
        shapes: 'good-enough',
      },
    });
    bench.proposals.keep();
    expect(bench.store.document.proxies.length).toBe(2);
    await rungs.rest();
    expect(rungs.has('[data-testid=ladder]')).toBeFalse();
    bench.store.undo();
    expect(bench.store.document.proxies).toEqual([]);
  });

  it('goes when another proposal comes, and when its own is discarded', async () => {
    const rungs = await run();
    bench.proposals.propose({ source: 'size', title: 'x', edit: { kind: 'rename-piece', name: 'x' } });
    await rungs.rest();
    expect(bench.get(LadderStore).ladder).toBeNull();
    await run();
    bench.proposals.discard();
    expect(bench.get(LadderStore).ladder).toBeNull();
    bench.get(LadderStore).turnTo(0);
    expect(bench.proposals.proposal).toBeNull();
  });

  it('breaks up chosen faces only, and adds their shapes to those that are there', async () => {
    bench.store.apply(replaceProxies([{ id: 'rung-2-1', shape: box(4, 1) }]));
    bench.selection.setArt(stripArt());
    bench.selection.chooseFaces(Uint8Array.from([0, 1, 0, 1, 0, 0, 0, 0]), 'only');
    const panel = await bench.show(LadderPanel);
    await panel.press('Break 2 faces into shapes');
    expect([...bench.jobs['ladder']!.calls.mostRecent().args[2].faces]).toEqual([1, 3]);
    expect(shapesShown()!.length).toBe(3);
    expect(new Set(bench.proposals.proposal!.preview.proxies.map(({ id }) => id)).size).toBe(3);
    const { edit } = bench.proposals.proposal!;
    expect(edit.kind === 'put-proxies' && [edit.changed.length, edit.removed, edit.intent]).toEqual([
      2,
      [],
      undefined,
    ]);
  });

  describe('a first look', () => {
    const sets = [[box(0.5, 0.6)], [box(0.2, 0.3), box(0.8, 0.3)]];
    let end: (run: { ladder: Ladder; now: null }) => void;
    let fail: (reason: Error) => void;
    let panel: TestPage<RungsPanel>;
    beforeEach(async () => {
      bench.jobs['firstLook']!.and.resolveTo(sets);
      bench.jobs['ladder']!.and.returnValue(
        new Promise((resolve, reject) => ([end, fail] = [resolve, reject])),
      );
      panel = await run();
    });

    it('is shown at once, every set of it, and gives way to the ladder', async () => {
      expect(panel.has('[data-testid=first-look]')).toBeTrue();
      expect(shapesShown()).toEqual(sets[1]);
      expect(bench.proposals.proposal!.title).toBe('A first look: 2 shapes, not measured yet.');
      await panel.press('1');
      expect(shapesShown()).toEqual(sets[0]);
      end({ ladder, now: null });
      await panel.rest();
      expect(panel.has('[data-testid=first-look]')).toBeFalse();
      expect(panel.has('[data-testid=ladder]')).toBeTrue();
      expect(shapesShown()).toEqual(ladder.rungs[1]!.shapes);
    });

    it('goes when it is discarded, and the ladder still comes', async () => {
      bench.proposals.discard();
      await panel.rest();
      expect(panel.has('[data-testid=first-look]')).toBeFalse();
      end({ ladder, now: null });
      await panel.rest();
      expect(panel.has('[data-testid=ladder]')).toBeTrue();
    });

    it('is looked at and not kept, and goes when the run is stopped', async () => {
      const bar = await bench.show(ProposalBar);
      expect([bar.has('[data-testid=keep]'), bar.has('[data-testid=discard]')]).toEqual([false, true]);
      bench.proposals.keep();
      expect(bench.store.document.proxies).toEqual([]);
      expect(shapesShown()).toEqual(sets[1]);
      fail(new Stopped('Stopped.'));
      await panel.rest();
      expect(bench.proposals.proposal).toBeNull();
      expect(panel.has('[data-testid=first-look]')).toBeFalse();
      expect(bench.said()).toBe('');
    });

    it('of an earlier run is not shown in a later one', async () => {
      end({ ladder, now: null });
      await panel.rest();
      let look: (sets: Shape[][]) => void = () => undefined;
      bench.jobs['firstLook']!.and.returnValue(new Promise((resolve) => (look = resolve)));
      bench.jobs['ladder']!.and.resolveTo({ ladder, now: null });
      await run();
      await bench.clock.move(250);
      await panel.rest();
      bench.jobs['firstLook']!.and.resolveTo([]);
      bench.jobs['ladder']!.and.returnValue(new Promise(() => undefined));
      panel = await run();
      look(sets);
      await panel.rest();
      expect(panel.has('[data-testid=first-look]')).toBeFalse();
      expect(panel.has('[data-testid=ladder]')).toBeTrue();
    });

    it('comes too late when the ladder is there', async () => {
      end({ ladder, now: null });
      await panel.rest();
      let look: (sets: Shape[][]) => void = () => undefined;
      bench.jobs['firstLook']!.and.returnValue(new Promise((resolve) => (look = resolve)));
      bench.jobs['ladder']!.and.resolveTo({ ladder, now: null });
      panel = await run();
      await bench.clock.move(250);
      look(sets);
      await panel.rest();
      expect(panel.has('[data-testid=first-look]')).toBeFalse();
      expect(shapesShown()).toEqual(ladder.rungs[1]!.shapes);
    });
  });

  it('changes nothing when it is stopped, or when the piece was changed meanwhile', async () => {
    bench.jobs['ladder']!.and.rejectWith(new Stopped('Stopped.'));
    const panel = await bench.show(LadderPanel);
    await panel.press('Break');
    expect([bench.proposals.proposal, bench.said()]).toEqual([null, '']);
    bench.jobs['ladder']!.and.callFake(async () => {
      bench.store.apply({ kind: 'rename-mesh', name: 'Meanwhile' });
      return { ladder, now: null };
    });
    await panel.press('Break');
    expect(bench.proposals.proposal).toBeNull();
    expect(bench.said()).toContain('break it again');
  });

  it('of chosen faces compares the whole set with the whole set, remembers them, and replaces what it made alone', async () => {
    const area = await testBench(postPiece(stripArt().document), (jobs) =>
      jobs['draw']!.and.resolveTo(stripArt().art),
    );
    await area.clock.move(1000);
    area.store.apply(replaceProxies([{ id: 'drawn', shape: box(5, 0.5) }]));
    const whole = ladder.rungs.map(({ shapes }) => comparer.compare([box(5, 0.5), ...shapes]));
    const now = comparer.compare([box(5, 0.5)]);
    area.jobs['ladder']!.and.resolveTo({ ladder, now, whole });
    area.selection.chooseFaces(Uint8Array.of(1, 1, 0, 0, 0, 0, 0, 0), 'only');
    const panel = await area.show(LadderPanel);
    await panel.press('Break 2 faces');
    const { proposal } = area.proposals;
    const row = (name: string) => proposal!.figures.find((each) => each.name === name)!;
    expect([row('Shapes').now, row('Shapes').next]).toEqual(['1', '3']);
    expect(row('Excess of the area').now).toBe('');
    area.proposals.keep();
    expect(area.store.document.areas.map(({ id, faces }) => [id, faces[0]!.runs])).toEqual([['a1', [0, 2]]]);
    expect(area.store.document.proxies.map(({ area: of }) => of)).toEqual([undefined, 'a1', 'a1']);
    const list = await area.show(AreasPanel);
    expect(list.text).toContain('deckhand, 2 shapes');
    area.selection.clearFaces();
    area.jobs['ladder']!.and.resolveTo({ ladder: { ...ladder, goodEnough: 0 }, now, whole });
    await list.press('Run again');
    expect(area.jobs['ladder']!.calls.mostRecent().args[2]).toEqual(
      jasmine.objectContaining({ area: 'a1', faces: Uint32Array.of(0, 1) }),
    );
    area.proposals.keep();
    expect(area.store.document.proxies.map(({ area: of }) => of)).toEqual([undefined, 'a1']);
    expect(area.store.document.areas.length).toBe(1);
    list.one<HTMLButtonElement>('[aria-label="Forget area 1"]').click();
    expect([area.store.document.areas.length, area.store.document.proxies.length]).toEqual([0, 2]);
  });

  it('keeps what was set when another step is looked at meanwhile', async () => {
    const panel = await bench.show(LadderPanel);
    await panel.type('Max shapes', '7');
    const again = await bench.show(LadderPanel);
    await again.press('Break');
    expect(bench.jobs['ladder']!.calls.mostRecent().args[2].maxShapes).toBe(7);
  });

  it('says of a rung what it is, and of specks what became of them', () => {
    const agent = {
      id: 'a',
      name: 'gull',
      height: 1,
      radius: 0.1,
      step: 0.1,
      slopeDegrees: 40,
      jump: 0,
      detail: 0.04,
    };
    const shownLadder = { ...ladder, agent, whole: null, now: null, at: 0 };
    expect(rungTitle(shownLadder, 0)).toMatch(/^1 shape, .* off$/);
    expect(rungTitle(shownLadder, 1)).toMatch(/good enough for the gull$/);
    expect([specksText(0), specksText(1)]).toEqual(['', '1 speck too small to collide with has no shape.']);
  });
});

describe('the deviation view', () => {
  it('measures what is shown while it is looked at, and not otherwise', async () => {
    const bench = await testBench(postPiece(postDocument()));
    const deviation = bench.get(DeviationStore);
    const { vertices, uncovered: _uncovered, ...figures } = comparer.inDetail([box(0.5, 0.5)]);
    bench.jobs['measure']!.and.resolveTo({ figures, vertices, faces: null });
    bench.store.apply(replaceProxies([{ id: 'a', shape: box(0.5, 0.5) }]));
    await bench.clock.move(1000);
    expect(bench.jobs['measure']).not.toHaveBeenCalled();
    bench.get(ViewSettingsStore).toggle('deviation');
    await bench.clock.move(1000);
    expect(bench.jobs['measure']).toHaveBeenCalledTimes(1);
    expect(shown(deviation.deviation$)!.vertices.length).toBe(4);
    bench.get(ViewSettingsStore).toggle('deviation');
    await bench.clock.move(1000);
    expect(shown(deviation.deviation$)).toBeNull();
  });

  it('is switched off when it gets no figures, with a word', async () => {
    const bench = await testBench(postPiece(postDocument()));
    bench.get(DeviationStore);
    bench.jobs['measure']!.and.rejectWith(new Error('broke'));
    bench.store.apply(replaceProxies([{ id: 'a', shape: box(0.5, 0.5) }]));
    bench.get(ViewSettingsStore).toggle('deviation');
    await bench.clock.move(1000);
    expect(bench.get(ViewSettingsStore).settings.deviation).toBeFalse();
    expect(bench.notices.notices.length).toBe(1);
  });

  it('paints either side in steps, pale where nothing is off', () => {
    const paint = (value: number) => [...deviationColors({ vertices: Float32Array.of(value), scale: 0.04 })];
    expect(LEGEND.length).toBe(9);
    expect(paint(0)).toEqual(paint(0.009));
    expect(paint(0.011)).not.toEqual(paint(-0.011));
    expect(paint(0.05)).toEqual(paint(1));
  });
});

describe('the list of shapes', () => {
  it('names kept or proposed shapes, and removes kept ones', async () => {
    const bench = await testBench(postPiece(postDocument()));
    bench.store.apply(
      replaceProxies([
        { id: 'a', shape: box(0, 1) },
        { id: 'b', shape: box(2, 1) },
      ]),
    );
    const page = await bench.show(ShapesPanel);
    expect(page.all('[data-shape]').map((each) => each.dataset['kind'])).toEqual(['box', 'box']);
    page.one('[data-shape="2"]').dispatchEvent(new Event('pointerenter'));
    await page.rest();
    expect(page.one('.lit').dataset['shape']).toBe('2');
    page.one<HTMLButtonElement>('[aria-label="Remove shape 1"]').click();
    await page.rest();
    expect(bench.store.document.proxies.map(({ id }) => id)).toEqual(['b']);
    bench.store.undo();
    await page.rest();
    await page.press('Remove all 2 shapes');
    expect(bench.store.document.proxies).toEqual([]);
    bench.proposals.propose({
      source: 'make',
      title: 'x',
      edit: replaceProxies([{ id: 'c', shape: box(0, 1) }]),
    });
    await page.rest();
    expect(page.text).toContain('Proposed shapes');
    expect(page.has('[aria-label="Remove shape 1"]')).toBeFalse();
  });

  it('says the corners of a hull, and the kind of anything else', () => {
    const hull = { kind: 'hull', points: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1], faces: [[0, 1, 2]] } as Shape;
    expect([costText(hull), costText(box(0, 1))]).toEqual(['4 corners', 'box']);
  });
});

describe('shapes that are made', () => {
  const made = (shape: Shape) => {
    const edit = { kind: 'put-proxies' as const, changed: [{ id: 's1', shape }], removed: [] };
    return { edit, before: null, after: comparer.compare([shape]) };
  };
  const asked = (bench: TestBench) => bench.jobs['makeShapes']!.calls.mostRecent().args[2] as Make;

  it('wrap what the button says, in the kind that was chosen', async () => {
    const bench = await testBench(postPiece(postDocument()));
    bench.jobs['makeShapes']!.and.resolveTo(made(box(0.5, 0.5)));
    const page = await bench.show(WrapPanel);
    await page.choose('Kind of shape', 'Sphere');
    await page.press('Wrap the piece');
    expect(asked(bench)).toEqual({ make: 'wrap', kind: 'sphere', per: 'piece', faces: null });
    const proposal = bench.proposals.proposal!;
    expect([proposal.title, proposal.keepLabel]).toEqual(['Wrapped the piece: sphere.', 'Keep 1 shape']);
    expect(proposal.figures[0]).toEqual(jasmine.objectContaining({ name: 'Shapes', now: '—', next: '1' }));
  });

  it('are of the chosen faces where there are some', async () => {
    const bench = await testBench(postPiece(stripArt().document));
    bench.jobs['makeShapes']!.and.resolveTo(made(box(0.5, 0.5)));
    bench.selection.setArt(stripArt());
    bench.selection.chooseFaces(Uint8Array.of(1, 1, 1, 0, 0, 0, 0, 0), 'only');
    const page = await bench.show(MakePanel);
    await page.press('Slab');
    await page.type('Thickness', '0.2+0.1');
    await page.press('Lay a slab below 3 faces');
    expect(asked(bench)).toEqual({ make: 'slab', faces: Uint32Array.of(0, 1, 2), thickness: 0.1 + 0.2 });
  });

  it('lie along a run whose line was found, and follow the joints that are moved', async () => {
    const bench = await testBench(postPiece(stripArt().document));
    const page = await bench.show(MakePanel);
    await page.press('Correct its line …');
    expect(bench.said()).toContain('Choose the faces of one run');
    bench.selection.setArt(stripArt());
    bench.selection.chooseFaces(Uint8Array.of(1, 1, 1, 0, 0, 0, 0, 0), 'only');
    bench.jobs['makeShapes']!.and.resolveTo(made(box(0.5, 0.5)));
    const line: Vec3[] = [
      [0, 0, 0],
      [1, 0, 0],
      [2, 0, 0],
    ];
    bench.jobs['runLine']!.and.resolveTo({ line, closed: false, width: 0.1, height: 0.2, part: 'n1' });
    await page.press('Correct its line …');
    expect(bench.jobs['runLine']!.calls.mostRecent().args.slice(1, 3)).toEqual([
      Uint32Array.of(0, 1, 2),
      { count: 12, tolerance: null },
    ]);
    const picking = bench.get(Picking);
    const pick = async (at: Vec3) => {
      picking.pick({ kind: 'face', at, normal: [0, 1, 0], edge: [at, at], part: 'n1' });
      await page.rest();
    };
    // The surface is 0.1 above the line; the joint moves as far as from one pick to the other.
    await pick([1.2, 0.1, 0]);
    await pick([1.2, 0.4, 0]);
    expect(asked(bench)).toEqual({
      make: 'drawn-chain',
      line: [
        [0, 0, 0],
        [1, jasmine.any(Number) as never, 0],
        [2, 0, 0],
      ],
      closed: false,
      width: 0.1,
      height: 0.2,
      part: 'n1',
    });
    expect((asked(bench) as { line: Vec3[] }).line[1]![1]).toBeCloseTo(0.3, 12);
    // Where no chain can be laid the joint stays where it was.
    bench.jobs['makeShapes']!.and.rejectWith(new DecomposeError('The line turns back on itself at place 2.'));
    await pick([1.2, 0.4, 0]);
    await pick([9, 0, 0]);
    expect(bench.said()).toContain('turns back on itself');
    bench.jobs['makeShapes']!.and.resolveTo(made(box(0.5, 0.5)));
    await pick([2, 0, 0]);
    await pick([2, 0, 1]);
    expect((asked(bench) as { line: Vec3[] }).line[1]![1]).toBeCloseTo(0.3, 12);
    expect((asked(bench) as { line: Vec3[] }).line[2]).toEqual([2, 0, 1]);
    picking.cancel();
    await page.rest();
    expect(page.button('Correct its line …').disabled).toBeFalse();
    // Discarded or kept, it is over: nothing is asked any more.
    await page.press('Correct its line …');
    expect(picking.asked).not.toBeNull();
    bench.get(Proposals).discard();
    await page.rest();
    expect([picking.asked, page.button('Correct its line …').disabled]).toEqual([null, false]);
  });

  it('frame an opening of the piece, and none while there is none', async () => {
    const bench = await testBench(postPiece(postDocument()));
    const page = await bench.show(MakePanel);
    await page.press('Frame');
    expect(page.button('Frame the opening').disabled).toBeTrue();
    bench.store.apply({
      kind: 'set-clearances',
      clearances: [
        {
          id: 'c1',
          name: 'hatch',
          center: [0, 0, 0],
          halfExtents: [1, 1, 1],
          rotation: [0, 0, 0, 1],
          through: 'z',
        },
      ],
    });
    await page.rest();
    await page.press('Frame the opening');
    expect(asked(bench)).toEqual({ make: 'frame', clearance: 'c1', width: 0.2, sill: false });
  });

  it('are drawn from three points, on the ground too; a line ends where it is cancelled', async () => {
    const bench = await testBench(postPiece(postDocument()));
    bench.jobs['makeShapes']!.and.resolveTo(made(box(0.5, 0.5)));
    const picking = bench.get(Picking);
    const page = await bench.show(DrawPanel);
    const pick = async (...at: Vec3) => {
      picking.pick({ kind: 'ground', at, normal: [0, 1, 0], edge: [at, at], part: '' });
      await page.rest();
    };
    await page.press('Box');
    expect(picking.onGround).toBeTrue();
    await pick(0, 0, 0);
    await pick(2, 0, 1);
    await pick(0, 3, 0);
    expect(bench.store.document.proxies.map(({ shape }) => shape)).toEqual([
      { kind: 'box', center: [1, 1.5, 0.5], halfExtents: [1, 1.5, 0.5], rotation: [0, 0, 0, 1] },
    ]);
    await page.press('Chain');
    await pick(0, 0, 0);
    await pick(1, 0, 0);
    picking.cancel();
    await page.rest();
    expect(asked(bench)).toEqual({
      make: 'drawn-chain',
      line: [
        [0, 0, 0],
        [1, 0, 0],
      ],
      width: 0.1,
      height: 0.1,
      closed: false,
    });
  });
});
