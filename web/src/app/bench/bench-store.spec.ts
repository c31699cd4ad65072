import { TestBed } from '@angular/core/testing';
import type { Piece, Saved } from '@yard-brace/contract';
import { type History, type HistorySteps, proxyKey, withSteps } from '@yard-brace/core';
import { firstValueFrom } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { Notices } from '../shell/notices';
import { postPiece, savedPost } from '../testing/post';
import { shown } from '../testing/shown';
import { BenchStore, type Saving } from './bench-store';
import { Drafts } from './drafts';

/** A server of one piece that can be away, or be written to by somebody else. */
class FakeApi {
  version = 1;
  history: History = postPiece().history;
  away = false;
  saves = 0;
  added: History[] = [];

  piece = async (id: number): Promise<Piece> => ({
    ...postPiece(),
    id,
    version: this.version,
    history: this.history,
  });

  savePiece = async (
    _id: number,
    version: number,
    state: { steps: HistorySteps } | { history: History },
  ): Promise<Saved> => {
    this.saves++;
    if (this.away) throw new ApiError('unavailable', 'The database cannot be reached just now.');
    if (version !== this.version) {
      throw new ApiError('conflict', 'Somebody was first.', {
        code: 'conflict',
        message: 'Somebody was first.',
        version: this.version,
        savedAt: '2026-01-01T10:01:00.000Z',
      });
    }
    this.history = 'steps' in state ? withSteps(this.history, state.steps)! : state.history;
    return savedPost(++this.version);
  };

  setMeasured = async () => ({ facts: savedPost(1).facts });

  addPiece = async (_yard: number, history: History): Promise<Piece> => {
    this.added.push(history);
    return this.piece(2);
  };
}

describe('BenchStore', () => {
  let api: FakeApi;
  let store: BenchStore;

  const fresh = () =>
    TestBed.resetTestingModule()
      .configureTestingModule({ providers: [BenchStore, { provide: Api, useValue: api }] })
      .inject(BenchStore);
  const rename = (name: string) => store.apply({ kind: 'rename-mesh', name });
  const becomes = async (state: Saving['state'], ms = 4000) => {
    for (const until = Date.now() + ms; store.saving$.value.state !== state && Date.now() < until;)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect(store.saving$.value.state).toBe(state);
  };

  beforeEach(async () => {
    localStorage.clear();
    api = new FakeApi();
    store = fresh();
    await store.open(1);
  });
  afterEach(() => localStorage.clear());

  it('saves by itself, several quick changes in one go', async () => {
    rename('A');
    rename('B');
    expect(store.unsaved).toBeTrue();
    await becomes('saved');
    expect(api.saves).toBe(1);
    expect(api.history.edits.length).toBe(2);
    expect(store.unsaved).toBeFalse();
  });

  it('undoes and redoes, and says what', async () => {
    rename('A');
    expect(await firstValueFrom(store.undoable$)).toBe('mesh name A');
    store.undo();
    expect(store.document.meshName).toBe('Post');
    expect(await firstValueFrom(store.redoable$)).toBe('mesh name A');
    store.redo();
    expect(store.document.meshName).toBe('A');
  });

  it('keeps a change while the server is away and saves it when it is back', async () => {
    api.away = true;
    rename('Kept');
    await becomes('waiting');
    rename('Kept_02');
    api.away = false;
    await becomes('saved');
    expect(store.document.meshName).toBe('Kept_02');
    expect(api.history.edits.length).toBe(2);
  });

  it('brings back a change that an earlier window could not save', async () => {
    api.away = true;
    rename('Lost_tab');
    await becomes('waiting');
    const draft = TestBed.inject(Drafts).take(1)!;
    store.undo();
    api.away = false;
    await becomes('saved');

    api = new FakeApi();
    store = fresh();
    TestBed.inject(Drafts).put(1, draft);
    await store.open(1);
    expect(store.document.meshName).toBe('Lost_tab');
    await becomes('saved');
    expect(api.history.edits.length).toBe(1);
    expect(TestBed.inject(Drafts).take(1)).toBeNull();
  });

  it('stops saving when somebody was first, and can take that over', async () => {
    await api.savePiece(1, 1, {
      history: { ...api.history, edits: [{ kind: 'rename-mesh', name: 'Theirs' }], cursor: 1 },
    });
    rename('Mine');
    await becomes('conflict');
    const saves = api.saves;
    rename('Mine_02');
    await new Promise((resolve) => setTimeout(resolve, 600));
    expect(api.saves).toBe(saves);
    await store.takeTheirs();
    expect(store.document.meshName).toBe('Theirs');
    await becomes('saved');
  });

  it('or can keep its own as a copy', async () => {
    await api.savePiece(1, 1, { history: api.history });
    rename('Mine');
    await becomes('conflict');
    expect(await store.keepMineAsCopy()).toBe(2);
    expect(api.added[0]!.edits.at(-1)).toEqual({ kind: 'rename-piece', name: 'Post (copy)' });
    expect(store.unsaved).toBeFalse();
  });

  it('a proposal is only shown until it is kept', async () => {
    const proxies = [
      {
        id: 'a',
        shape: { kind: 'sphere' as const, center: [0, 0, 0] as [number, number, number], radius: 1 },
      },
    ];
    store.proposeShapes({ what: 'A sphere', proxies, cutBack: 0 });
    store.leaveProposal();
    expect(store.document.proxies).toEqual([]);
    store.proposeShapes({ what: 'A sphere', proxies, cutBack: 0 });
    store.keepProposal();
    expect(store.document.proxies).toEqual(proxies);
    // Nobody has measured them yet: that is no clear stamp.
    expect((await firstValueFrom(store.judged$)).tally.proxies).toBe('look');
    const key = proxyKey(store.document);
    await store.measured({ key, artOutside: 0.001, proxyOutside: 0.02 });
    expect((await firstValueFrom(store.judged$)).tally.proxies).toBe('clear');
    await store.measured({ key, artOutside: 0.001, proxyOutside: 0.2 });
    expect((await firstValueFrom(store.judged$)).tally.proxies).toBe('look');
    await store.measured({ key, artOutside: 0.001, proxyOutside: 0.02 });
    store.apply({ kind: 'set-unit', unit: 'cm' });
    expect((await firstValueFrom(store.judged$)).findings.map(({ id }) => id)).toContain(
      'proxies-unmeasured',
    );
    await becomes('saved');
  });

  const sphere = (id: string) => ({
    id,
    shape: { kind: 'sphere' as const, center: [0, 0, 0] as [number, number, number], radius: 1 },
  });

  it('a proposal goes, with a word, when what it was made for changes', () => {
    store.proposeShapes({ what: 'A sphere', proxies: [sphere('a')], cutBack: 0 });
    store.apply({ kind: 'set-unit', unit: 'cm' });
    expect(shown(store.proposal$)).toBeNull();
    expect(TestBed.inject(Notices).notices$.value.at(-1)!.text).toContain('proposal');
    store.keepProposal();
    expect(store.document.proxies).toEqual([]);
    store.proposeChange('Another name.', { kind: 'rename-piece', name: 'Other' });
    store.undo();
    expect(shown(store.change$)).toBeNull();
  });

  it('there is one proposal at a time', () => {
    store.proposeShapes({ what: 'A sphere', proxies: [sphere('a')], cutBack: 0 });
    store.proposeChange('Another name.', { kind: 'rename-piece', name: 'Other' });
    expect(shown(store.proposal$)).toBeNull();
    store.proposeShapes({ what: 'A sphere', proxies: [sphere('a')], cutBack: 0 });
    expect(shown(store.change$)).toBeNull();
    expect(store.leaveProposal()).toBeTrue();
    expect(store.leaveProposal()).toBeFalse();
  });

  it('no two shapes that are kept bear one id', () => {
    store.proposeShapes({ what: 'Three', proxies: ['a', 'a', 's1'].map(sphere), cutBack: 0 });
    store.keepProposal();
    expect(store.document.proxies.map(({ id }) => id)).toEqual(['a', 's2', 's1']);
    store.apply({ kind: 'remove-proxy', id: 'a' });
    expect(store.document.proxies.length).toBe(2);
  });

  it('shows the piece asked for last, in whatever order the answers come', async () => {
    const answers = new Map<number, () => void>();
    api.piece = (id) =>
      new Promise((resolve) => answers.set(id, () => resolve({ ...postPiece(), id, history: api.history })));
    const [first, second] = [store.open(7), store.open(8)];
    await new Promise((resolve) => setTimeout(resolve));
    answers.get(8)!();
    await second;
    answers.get(7)!();
    await first;
    expect(store.piece$.value!.id).toBe(8);
  });

  it('is settled only when everything is saved', async () => {
    rename('Settled');
    expect(await store.settled()).toBe(2);
    api.away = true;
    rename('Away');
    await expectAsync(store.settled()).toBeRejectedWithError(/not saved yet/);
    api.away = false;
    await becomes('saved');
  });
});
