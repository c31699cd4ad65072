import type { Edit } from '@yard-brace/core';
import { type TestBench, testBench } from '../testing/bench';
import { gate } from '../testing/stand-in-worker';
import { settle } from '../testing/hand-clock';
import { shown } from '../testing/shown';
import { stripArt } from '../testing/strip';
import { Told } from '../api/told';
import { ArtStore } from './art-store';
import { FacePicker } from './face-picker';
import { Picking } from './picking';
import { ViewMarks } from './view-marks';
import { ViewSettingsStore } from './view-settings';

const grow: Edit = { kind: 'resize', factor: 2, about: [0, 0, 0] };

describe('ArtStore', () => {
  let bench: TestBench;
  let arts: ArtStore;
  const { art } = stripArt();
  beforeEach(async () => {
    bench = await testBench(undefined, (jobs) => jobs['draw']!.and.callFake(async () => ({ ...art })));
    arts = bench.get(ArtStore);
    await settle();
  });
  const draws = () => bench.jobs['draw']!.calls.count();

  it('draws the piece, and again only when what it is made of changes', async () => {
    expect([draws(), arts.art!.piece, arts.art!.document.name]).toEqual([1, 1, 'Post']);
    bench.store.apply({ kind: 'rename-mesh', name: 'Other' });
    await settle();
    expect(draws()).toBe(1);
    bench.store.apply(grow);
    await settle();
    expect(draws()).toBe(2);
  });

  it('draws what a proposal would make, and what is there again when it goes', async () => {
    bench.proposals.propose({ source: 'size', title: 'Twice.', edit: grow });
    await settle();
    expect(arts.art!.document.placing.factor).toBe(2);
    expect(arts.document.placing.factor).toBe(2);
    // As it is it can be seen beside that, for as long as it differs.
    expect(shown(arts.before$)!.document.placing.factor).toBe(1);
    bench.proposals.discard();
    await settle();
    expect([arts.art!.document.placing.factor, shown(arts.before$)]).toEqual([1, null]);
    bench.proposals.propose({ source: 'size', title: 'Twice.', edit: grow });
    await settle();
    bench.proposals.keep();
    await settle();
    expect([bench.store.document.placing.factor, shown(arts.before$)]).toEqual([2, null]);
  });

  it('keeps what is drawn until the new art is there, and shows the last asked for', async () => {
    const [slow, fast] = [gate(), gate()];
    bench.jobs['draw']!.and.returnValues(
      slow.opened.then(() => ({ ...art, key: 'slow' })),
      fast.opened.then(() => ({ ...art, key: 'fast' })),
    );
    bench.store.apply(grow);
    bench.store.apply(grow);
    expect(arts.art!.art.key).toBe('strip');
    fast.open();
    await settle();
    expect(arts.art!.art.key).toBe('fast');
    slow.open();
    await settle();
    expect(arts.art!.art.key).toBe('fast');
  });

  it('lets go of everything that belongs to the last piece', async () => {
    bench.selection.chooseFaces(new Uint8Array(8).fill(1), 'only');
    bench.get(ViewMarks).addTape([
      [0, 0, 0],
      [1, 0, 0],
    ]);
    bench.get(ViewSettingsStore).toggleCut();
    const asked = bench.get(Picking).ask('Pick.');
    bench.jobs['draw']!.and.returnValue(new Promise(() => undefined));
    await bench.store.open(2);
    expect(await asked).toBeNull();
    expect([arts.art, bench.selection.selected.faces, shown(bench.get(ViewMarks).tapes$)]).toEqual([
      null,
      null,
      [],
    ]);
    expect(bench.get(ViewSettingsStore).settings.cut).toBeNull();
    expect(shown(arts.waiting$)).toBe('Drawing Post …');
  });

  it('says why there is no art', async () => {
    bench.jobs['draw']!.and.rejectWith(new Told('The mesh cannot be fetched.'));
    await bench.store.open(2);
    await settle();
    expect(shown(arts.waiting$)).toBe('The mesh cannot be fetched.');
  });

  it('shows another piece beside this one, and the last one asked for', async () => {
    bench.store.showBeside([3]);
    await settle();
    expect(shown(arts.beside$).length).toBe(1);
    bench.store.showBeside([4]);
    bench.store.showBeside([]);
    await settle();
    expect(shown(arts.beside$)).toEqual([]);
    bench.jobs['draw']!.and.rejectWith(new Told('It is broken.'));
    bench.store.showBeside([5]);
    await settle();
    expect(bench.said()).toBe('It is broken.');
  });
});

describe('FacePicker', () => {
  let bench: TestBench;
  let picker: FacePicker;
  const faces = () => [...(bench.selection.selected.faces?.faces ?? [])].join('');
  const sight = { eye: [0, 9, 0] as [number, number, number], direction: null };
  beforeEach(async () => {
    bench = await testBench(undefined, (jobs) =>
      jobs['draw']!.and.callFake(async () => ({ ...stripArt().art })),
    );
    picker = bench.get(FacePicker);
    await settle();
  });

  it('chooses by click, and lets go by a click beside everything', async () => {
    await picker.click({ face: 3, at: [0, 0, 0] }, 'only');
    await picker.click({ face: 5, at: [0, 0, 0] }, 'add');
    expect(faces()).toBe('00010100');
    await picker.click(null, 'add');
    expect(faces()).toBe('00010100');
    await picker.click(null, 'only');
    expect(faces()).toBe('');
  });

  it('asks which of the marked faces are seen, with what is hidden and cut away; not when it goes through', async () => {
    bench.jobs['seenFaces']!.and.callFake(async (_document: unknown, asked: Uint8Array) =>
      asked.map((f, i) => (i < 4 ? f : 0)),
    );
    await picker.area(new Uint8Array(8).fill(1), sight, 'only');
    expect(faces()).toBe('11110000');
    bench.get(ViewSettingsStore).set({ through: true, cut: { axis: 0, at: 0.5, flipped: true } });
    await picker.area(new Uint8Array(8).fill(1), sight, 'only');
    // The post ends at 2 m: of the strip, ten metres along, all lies beyond its middle.
    expect(faces()).toBe('11111111');
    bench.get(ViewSettingsStore).set({ through: false, cut: { axis: 0, at: 0.5, flipped: false } });
    await picker.area(new Uint8Array(8).fill(1), sight, 'only');
    const [, asked, look] = bench.jobs['seenFaces']!.calls.mostRecent().args;
    expect([[...asked].join(''), look.cut]).toEqual(['00000000', { normal: [-1, 0, 0], offset: -1 }]);
  });

  it('takes nothing of a hidden part', async () => {
    bench.get(ViewSettingsStore).toggleHidden(['n1']);
    await picker.click({ face: 3, at: [0, 0, 0] }, 'only');
    expect(faces()).toBe('');
    picker.change('invert');
    expect(faces()).toBe('');
  });

  it('follows an edge, and drops an answer that comes for art of before', async () => {
    bench.get(ViewSettingsStore).set({ chooseBy: 'border' });
    const answer = gate();
    const run = {
      faces: Uint8Array.of(1, 1, 0, 0, 0, 0, 0, 0),
      sides: [{ part: 'n1', sides: Uint32Array.of(4) }],
    };
    bench.jobs['edgeRun']!.and.resolveTo(run);
    await picker.click({ face: 0, at: [10, 0, 0] }, 'only');
    expect([faces(), bench.selection.lastRun.length]).toEqual(['11000000', 1]);
    bench.jobs['edgeRun']!.and.returnValue(answer.opened.then(() => run));
    const late = picker.click({ face: 0, at: [10, 0, 0] }, 'only');
    bench.store.apply(grow);
    await settle();
    answer.open();
    await late;
    expect(faces()).toBe('');
  });

  it('says what went wrong', async () => {
    bench.get(ViewSettingsStore).set({ chooseBy: 'border' });
    bench.jobs['edgeRun']!.and.rejectWith(new Told('There is no edge.'));
    await picker.click({ face: 0, at: [10, 0, 0] }, 'only');
    expect(bench.said()).toBe('There is no edge.');
  });
});
