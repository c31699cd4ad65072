import { TestBed } from '@angular/core/testing';
import { type Edit, proxyKey } from '@yard-brace/core';
import { firstValueFrom } from 'rxjs';
import { type TestBench, testBench } from '../testing/bench';
import { settle } from '../testing/hand-clock';
import { postPiece } from '../testing/post';
import { shown } from '../testing/shown';
import { type BenchStore } from './bench-store';
import { Drafts } from './drafts';
import { type Saving, SAVE_AFTER_MS, TRY_AGAIN_MS } from './saver';

const sphere = (id: string) => ({
  id,
  shape: { kind: 'sphere' as const, center: [0, 0, 0] as [number, number, number], radius: 1 },
});
const putSpheres = (...ids: string[]): Edit => ({
  kind: 'put-proxies',
  changed: ids.map(sphere),
  removed: [],
});

describe('BenchStore', () => {
  let bench: TestBench;
  let store: BenchStore;
  const rename = (name: string) => store.apply({ kind: 'rename-mesh', name });
  const state = (): Saving['state'] => shown(store.saving$).state;

  beforeEach(async () => {
    bench = await testBench();
    ({ store } = bench);
  });
  afterEach(() => localStorage.clear());

  it('saves by itself, several quick changes in one go, and no sooner than they rest', async () => {
    rename('A');
    await bench.clock.move(SAVE_AFTER_MS - 1);
    rename('B');
    await bench.clock.move(SAVE_AFTER_MS - 1);
    expect([bench.api.saves, store.unsaved, state()]).toEqual([0, true, 'saving']);
    await bench.clock.move(1);
    expect([bench.api.saves, store.unsaved, state()]).toEqual([1, false, 'saved']);
    expect(bench.api.history.edits.length).toBe(2);
  });

  it('sends only what is new, and goes on from there', async () => {
    for (const name of ['A', 'B', 'C']) {
      rename(name);
      await bench.clock.move(SAVE_AFTER_MS);
    }
    expect(bench.api.sent.map(({ steps }) => steps!.edits.length)).toEqual([1, 1, 1]);
    store.undo();
    await bench.clock.move(SAVE_AFTER_MS);
    expect(bench.api.sent.at(-1)!.steps).toEqual({ fold: 0, keep: 3, edits: [], cursor: 2 });
  });

  it('undoes and redoes, and says what', async () => {
    rename('A');
    expect(await firstValueFrom(store.undoable$)).toBe('mesh name A');
    store.undo();
    expect(store.document.meshName).toBe('Post');
    expect(await firstValueFrom(store.redoable$)).toBe('mesh name A');
    store.redo();
    expect(store.document.meshName).toBe('A');
    store.redo();
    expect(store.document.meshName).toBe('A');
  });

  it('keeps a change while the server is away and saves it when it is back', async () => {
    bench.api.away = true;
    rename('Kept');
    await bench.clock.move(SAVE_AFTER_MS);
    expect(state()).toBe('waiting');
    rename('Kept_02');
    await bench.clock.move(SAVE_AFTER_MS);
    bench.api.away = false;
    await bench.clock.move(TRY_AGAIN_MS);
    expect(state()).toBe('saved');
    expect(bench.api.history.edits.length).toBe(2);
  });

  it('says so when the browser keeps no draft either', async () => {
    spyOn(Storage.prototype, 'setItem').and.throwError('full');
    bench.api.away = true;
    rename('Only here');
    await bench.clock.move(SAVE_AFTER_MS);
    expect(shown(store.saving$)).toEqual(jasmine.objectContaining({ state: 'waiting', kept: false }));
  });

  it('brings back a change that an earlier window could not save, and its draft is small', async () => {
    rename('Saved');
    await bench.clock.move(SAVE_AFTER_MS);
    bench.api.away = true;
    rename('Lost_tab');
    await bench.clock.move(SAVE_AFTER_MS);
    const draft = TestBed.inject(Drafts).take(1)!;
    expect([draft.version, draft.history, draft.steps!.edits.length]).toEqual([2, undefined, 1]);
    const { history, version } = bench.api;

    bench = await testBench();
    bench.api.history = history;
    bench.api.version = version;
    TestBed.inject(Drafts).put(1, draft);
    await bench.store.open(1);
    expect(bench.store.document.meshName).toBe('Lost_tab');
    await bench.clock.move(SAVE_AFTER_MS);
    expect(bench.api.history.edits.length).toBe(2);
    expect(TestBed.inject(Drafts).take(1)).toBeNull();
  });

  it('brings back a draft of an older version as a conflict, from the version it was made from', async () => {
    const { steps } = {
      steps: { fold: 0, keep: 0, edits: [{ kind: 'rename-mesh', name: 'Mine' } as Edit], cursor: 1 },
    };
    TestBed.inject(Drafts).put(1, { version: 1, steps });
    await bench.api.savePiece(1, 1, {
      steps: { fold: 0, keep: 0, edits: [{ kind: 'rename-mesh', name: 'Theirs' }], cursor: 1 },
    });
    await store.open(1);
    expect([state(), store.document.meshName]).toEqual(['conflict', 'Mine']);
    expect(await store.keepMineAt()).toBe('/pieces/2');
    expect(bench.api.added[0]!.edits.map((edit) => ('name' in edit ? edit.name : ''))).toEqual([
      'Mine',
      'Post (copy)',
    ]);
  });

  it('shows what is stored when a draft has nothing left to grow out of', async () => {
    TestBed.inject(Drafts).put(1, {
      version: 9,
      steps: { fold: 0, keep: 0, edits: [], cursor: 0 },
    });
    await store.open(1);
    expect([state(), store.document.meshName]).toEqual(['saved', 'Post']);
  });

  it('stops saving when somebody was first, and can load their version', async () => {
    await bench.api.savePiece(1, 1, {
      steps: { fold: 0, keep: 0, edits: [{ kind: 'rename-mesh', name: 'Theirs' }], cursor: 1 },
    });
    rename('Mine');
    await bench.clock.move(SAVE_AFTER_MS);
    expect(state()).toBe('conflict');
    const { saves } = bench.api;
    rename('Mine_02');
    await bench.clock.move(10 * TRY_AGAIN_MS);
    expect(bench.api.saves).toBe(saves);
    await store.loadTheirs();
    expect([state(), store.document.meshName]).toEqual(['saved', 'Theirs']);
    expect(TestBed.inject(Drafts).take(1)).toBeNull();
  });

  it('or can keep its own as a copy', async () => {
    await bench.api.savePiece(1, 1, { history: bench.api.history });
    rename('Mine');
    await bench.clock.move(SAVE_AFTER_MS);
    expect(await store.keepMineAt()).toBe('/pieces/2');
    expect(bench.api.added[0]!.edits.at(-1)).toEqual({ kind: 'rename-piece', name: 'Post (copy)' });
    expect(store.unsaved).toBeFalse();
  });

  it('a refusal is said, and nothing is tried again by itself', async () => {
    bench.api.savePiece = () => Promise.reject(new Error('no'));
    rename('A');
    await bench.clock.move(SAVE_AFTER_MS + 10 * TRY_AGAIN_MS);
    expect(shown(store.saving$)).toEqual({
      state: 'refused',
      why: jasmine.stringMatching(/^Something went wrong/) as unknown as string,
    });
  });

  it('shapes that nobody has measured are not clear; measured close enough they are', async () => {
    store.apply(putSpheres('a'));
    const tally = async () => (await firstValueFrom(store.judged$)).tally.proxies;
    expect(await tally()).toBe('look');
    const key = proxyKey(store.document);
    const measure = (proxyOutside: number) => store.measured({ key, artOutside: 0.001, proxyOutside });
    await measure(0.02);
    expect(await tally()).toBe('clear');
    await measure(0.2);
    expect(await tally()).toBe('look');
    await measure(0.02);
    store.apply({ kind: 'set-unit', unit: 'cm' });
    expect((await firstValueFrom(store.judged$)).findings.map(({ id }) => id)).toContain(
      'proxies-unmeasured',
    );
  });

  it('shows the piece asked for last, in whatever order the answers come', async () => {
    const answers = new Map<number, () => void>();
    bench.api.piece = (id) =>
      new Promise((resolve) => answers.set(id, () => resolve({ ...postPiece(), id })));
    const [first, second] = [store.open(7), store.open(8)];
    await settle();
    answers.get(8)!();
    await second;
    answers.get(7)!();
    await first;
    expect(store.piece.id).toBe(8);
  });

  it('is settled only when everything is saved', async () => {
    rename('Settled');
    expect(await store.settled()).toBe(2);
    bench.api.away = true;
    rename('Away');
    await expectAsync(store.settled()).toBeRejectedWithError(/not saved yet/);
  });

  it('tries once more when it goes, and keeps a draft of what it cannot save', async () => {
    bench.api.away = true;
    rename('Last words');
    TestBed.resetTestingModule();
    await settle();
    expect(bench.api.saves).toBe(1);
    expect(new Drafts().take(1)!.steps!.edits).toEqual([{ kind: 'rename-mesh', name: 'Last words' }]);
  });
});
