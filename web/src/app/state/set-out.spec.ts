import { quatAbout, type Placement } from '@yard-brace/core';
import { settle } from '../testing/hand-clock';
import { shown } from '../testing/shown';
import { boxed, checked, placed, positionsOf, type TestSetOut, testSetOut } from '../testing/set-out';
import { postDocument } from '../testing/post';
import { SetOutDrafts } from './drafts';
import { SAVE_AFTER_MS, TRY_AGAIN_MS } from './saver';
import { SetOutActs } from './set-out-acts';
import { SetOutPieces } from './set-out-pieces';
import { SetOutCheck } from './set-out-check';
import { SetOutDrag } from './set-out-drag';
import { SetOutSelection } from './set-out-selection';
import { SetOutTrial } from './set-out-trial';

let set: TestSetOut;
const acts = () => set.get(SetOutActs);
const others = () => set.get(SetOutPieces);
const selection = () => set.get(SetOutSelection);
const at = (id: string): Placement => set.placements().find((each) => each.id === id)!;
const xs = () => set.placements().map(({ position }) => position[0]);

afterEach(() => localStorage.clear());

describe('a set-out saves itself', () => {
  beforeEach(async () => (set = await testSetOut()));

  it('by what is new, and goes on where it is', async () => {
    selection().choose('p2');
    acts().shift([1, 0, 0]);
    acts().turn(90);
    await set.clock.move(SAVE_AFTER_MS);
    expect(set.api.sent.length).toBe(1);
    expect(set.api.sent[0]).toEqual(
      jasmine.objectContaining({
        version: 1,
        steps: jasmine.objectContaining({ fold: 0, keep: 0, cursor: 2 }),
      }),
    );
    expect(positionsOf(set.api.history)).toEqual([
      [0, 0, 0],
      [5, 0, 0],
    ]);
    set.store.undo();
    set.store.undo();
    expect(xs()).toEqual([0, 4]);
    expect(shown(set.store.redoable$)).toBe('move 1 piece');
    await set.clock.move(SAVE_AFTER_MS);
    expect(set.api.sent.at(-1)).toEqual({ version: 2, steps: { fold: 0, keep: 2, edits: [], cursor: 0 } });
  });

  it('and keeps what cannot be saved, in this browser, until it can', async () => {
    set.api.away = true;
    selection().choose('p1');
    acts().shift([2, 0, 0]);
    await set.clock.move(SAVE_AFTER_MS);
    expect(shown(set.store.saving$).state).toBe('waiting');
    const draft = set.get(SetOutDrafts).take(1)!;
    expect(positionsOf(draft.history)[0]).toEqual([2, 0, 0]);
    set.api.away = false;
    await set.clock.move(TRY_AGAIN_MS);
    expect([shown(set.store.saving$).state, set.get(SetOutDrafts).take(1)]).toEqual(['saved', null]);
    // What another window left comes back with the next one, and is saved whole.
    set.get(SetOutDrafts).put(1, { ...draft, version: 2 });
    await set.store.open(1);
    expect(xs()[0]).toBe(2);
  });

  it('not over what somebody else saved: theirs is loaded, or mine kept as a copy', async () => {
    set.api.version = 4;
    selection().choose('p1');
    acts().shift([2, 0, 0]);
    await set.clock.move(SAVE_AFTER_MS);
    expect(shown(set.store.saving$).state).toBe('conflict');
    await set.store.keepMineAt();
    expect(set.api.addSetOut.calls.mostRecent().args[1].name).toBe('Slip (copy)');
    await set.store.loadTheirs();
    expect([xs()[0], set.store.unsaved]).toEqual([0, false]);
  });
});

describe('pieces of a set-out', () => {
  beforeEach(
    async () =>
      (set = await testSetOut([
        placed('p1', 1, [0, 0, 0], { group: 'g1' }),
        placed('p2', 1, [4, 0, 0], { group: 'g1' }),
        placed('p3', 2, [8, 1, 0], { locked: true }),
        placed('p4', 2, [12, 0, 0]),
      ])),
  );

  it('are chosen with their group, alone when asked, and more by more', () => {
    selection().choose('p1');
    expect([...selection().ids]).toEqual(['p1', 'p2']);
    selection().choose('p4', { more: true });
    expect([...selection().ids]).toEqual(['p1', 'p2', 'p4']);
    selection().choose('p4', { more: true });
    expect([...selection().ids]).toEqual(['p1', 'p2']);
    selection().choose('p2', { alone: true });
    acts().shift([0, 0, 3]);
    expect([at('p1').position[2], at('p2').position[2]]).toEqual([0, 3]);
    selection().choose(null);
    expect(selection().ids.size).toBe(0);
  });

  it('move together, stay where they are locked, and are unlocked', () => {
    selection().choose('p1');
    acts().shift([1, 0, 1]);
    expect([at('p1').position, at('p2').position]).toEqual([
      [1, 0, 1],
      [5, 0, 1],
    ]);
    selection().choose('p3');
    acts().shift([9, 9, 9]);
    expect(at('p3').position).toEqual([8, 1, 0]);
    acts().delete();
    expect(set.said()).toContain('locked; unlock it first');
    acts().lock(false);
    acts().shift([1, 0, 0]);
    expect(at('p3').position).toEqual([9, 1, 0]);
  });

  it('are repeated, grouped, ungrouped and deleted, each one step', () => {
    selection().choose('p4');
    acts().repeat([0, 0, 2], 3);
    expect(set.placements().length).toBe(7);
    expect(selection().ids.size).toBe(4);
    acts().group();
    expect(new Set(selection().chosen.map(({ group }) => group))).toEqual(new Set(['g2']));
    acts().ungroup();
    acts().delete();
    expect(set.placements().map(({ id }) => id)).toEqual(['p1', 'p2', 'p3']);
    for (let i = 0; i < 4; i++) set.store.undo();
    expect(set.placements().map(({ id }) => id)).toEqual(['p1', 'p2', 'p3', 'p4']);
  });

  it('take over the turn, the height or the whole place of another', () => {
    selection().choose('p4');
    const other = placed('x', 1, [3, 2, 1], { rotation: quatAbout([0, 1, 0], 1) });
    acts().copyFrom(other, 'height');
    expect(at('p4').position).toEqual([12, 2, 0]);
    acts().copyFrom(other, 'turn');
    expect(at('p4').rotation).toEqual(other.rotation);
    acts().copyFrom(other, 'place');
    expect(at('p4').position).toEqual([3, 2, 1]);
    // Of several the first is put there, and the rest goes along.
    selection().choose('p1');
    acts().copyFrom(other, 'place');
    expect([at('p1').position, at('p2').position]).toEqual([
      [3, 2, 1],
      [7, 2, 1],
    ]);
    expect(at('p1').rotation).toEqual([0, 0, 0, 1]);
  });

  it('are swapped with materials kept, all at once; what jumps is said and chosen', async () => {
    selection().choose('p4');
    acts().setMaterial('oak', 'tarred oak');
    await others().swap({ piece: 3, version: null }, true);
    expect(set.placements().map(({ piece }) => piece)).toEqual([1, 1, 3, 3]);
    expect(at('p4').materials).toEqual({ oak: 'tarred oak' });
    acts().setMaterial('oak', ' ');
    expect(at('p4').materials).toEqual({});
    const drifted = postDocument(2);
    set.api.pieces.set(2, { ...drifted, pivot: { ...drifted.pivot, position: [0.03, 0, 0] } });
    await set.store.refresh(2);
    await others().swap({ piece: 2, version: null }, true);
    expect(set.said()).toContain('2 of 2 jump by up to 30.0 mm');
    expect([...selection().ids]).toEqual(['p3', 'p4']);
    await others().swap({ piece: 77, version: null }, false);
    expect(set.said()).toContain('no longer in the yard');
    await others().swap({ piece: 2, version: 5 }, false);
    expect(shown(set.store.names$).get('p4')).toContain('version 5');
  });

  it('drop at the origin to where they were made: by their own pivots', async () => {
    const document = postDocument(2);
    set.api.pieces.set(1, { ...document, pivot: { ...document.pivot, position: [3, 1, 2] } });
    await set.store.refresh(1);
    selection().choose('p1');
    acts().dropAtOrigin();
    expect([at('p1').position, at('p2').position, at('p4').position]).toEqual([
      [3, 1, 2],
      [3, 1, 2],
      [12, 0, 0],
    ]);
  });

  it('are mirrored in place, and become a piece of their own when that is wanted', async () => {
    selection().choose('p4');
    acts().mirror();
    expect(at('p4').mirrored).toBeTrue();
    const seen = { ...postDocument(2), name: 'seen' };
    set.jobs['operate']!.and.resolveTo({
      edit: { kind: 'rename-piece', name: 'Post 2 seen' },
      outcome: {},
    });
    await others().makeTrueMirrors();
    expect(set.api.added.map(({ name }) => name)).toEqual(['Post 2 (mirrored)']);
    expect([at('p4').piece, at('p4').mirrored]).toEqual([50, false]);
    expect(seen.name).toBe('seen');
  });

  it('take the mirrored piece that the yard has already, when it is the mirror image for true', async () => {
    const mirrorOf = async (isMirrored: boolean) => {
      set = await testSetOut([placed('p4', 2, [12, 0, 0], { mirrored: true })], (api) => {
        api.pieces.set(40, { ...postDocument(2), name: 'Post 2 (mirrored)' });
      });
      set.jobs['isMirrored']!.and.resolveTo(isMirrored);
      set.jobs['operate']!.and.resolveTo({ edit: { kind: 'rename-piece', name: 'x' }, outcome: {} });
      selection().choose('p4');
      await others().makeTrueMirrors();
      return at('p4').piece;
    };
    expect([await mirrorOf(true), set.api.added.length]).toEqual([40, 0]);
    expect([await mirrorOf(false), set.api.added.length]).toEqual([50, 1]);
  });

  it('that were removed keep their place, and the rest goes on', async () => {
    set = await testSetOut([placed('p1', 1, [0, 0, 0]), placed('p9', 99, [5, 0, 0])]);
    expect(shown(set.store.names$).get('p9')).toBe('removed piece 99');
    selection().choose('p9');
    acts().shift([1, 0, 0]);
    expect(at('p9').position).toEqual([6, 0, 0]);
    await settle();
    expect(set.said()).toBe('');
  });

  it('are no more than a set-out holds: that is said, and nothing is lost', () => {
    selection().choose('p4');
    acts().repeat([1, 0, 0], 20_000);
    expect(set.said()).toContain('holds 20,000 pieces at most');
    expect(set.placements().length).toBe(4);
  });
});

describe('a drag in a set-out', () => {
  beforeEach(async () => (set = await testSetOut()));
  const drag = () => set.get(SetOutDrag);

  it('shows what moves, is one step when it is let go, and nothing when it is given up', () => {
    selection().choose('p1');
    drag().begin('p1');
    drag().move([0.5, 0, 0], 'grid 500.0 mm');
    expect(shown(drag().dragged$)!.moved[0]!.placement.position).toEqual([0.5, 0, 0]);
    expect([shown(drag().caught$), xs()[0]]).toEqual(['grid 500.0 mm', 0]);
    expect(drag().cancel()).toBeTrue();
    expect([shown(drag().dragged$), xs()[0]]).toEqual([null, 0]);
    drag().begin('p1');
    drag().move([0.25, 0, 0], '');
    drag().drop();
    expect(xs()[0]).toBe(0.25);
    set.store.undo();
    expect(xs()[0]).toBe(0);
  });

  it('of a piece from the strip hovers, turns, and is put once or again and again', async () => {
    await drag().take(2);
    drag().hover([3, 0, 1], 'grid');
    expect(drag().turnInHand()).toBeTrue();
    drag().put({ more: true });
    drag().hover([6, 0, 1], 'grid');
    drag().put();
    expect(set.placements().map(({ piece, position }) => [piece, ...position])).toEqual([
      [1, 0, 0, 0],
      [1, 4, 0, 0],
      [2, 3, 0, 1],
      [2, 6, 0, 1],
    ]);
    expect(set.placements()[3]!.rotation[1]).toBeCloseTo(Math.SQRT1_2, 12);
    expect([drag().inHand, drag().letGo()]).toEqual([null, false]);
  });
});

describe('a set-out is looked at by itself', () => {
  it('after each change, in words that name the pieces, and mended from there', async () => {
    jasmine
      .clock()
      .install()
      .mockDate(new Date(2026, 0, 1));
    try {
      set = await testSetOut();
      const seam = {
        kind: 'seam' as const,
        a: 'p1',
        b: 'p2',
        gap: 0.012,
        shift: [-0.012, 0, 0] as [number, number, number],
        sideways: false,
        at: [2, 0, 0] as [number, number, number],
        pairs: 4,
        unmatched: 0,
      };
      set.jobs['checkSet']!.and.resolveTo(checked([seam]));
      const check = set.get(SetOutCheck);
      jasmine.clock().tick(600);
      await settle();
      const [told] = shown(check.faults$);
      expect(told!.words.says).toBe('Post 1 1 and Post 1 2 leave a gap of 12.0 mm at 4 vertices.');
      acts().mend(seam);
      expect(at('p2').position[0]).toBeCloseTo(3.988, 12);
      selection().choose('p2');
      acts().lock(true);
      acts().mend(seam);
      expect(set.said()).toContain('locked; unlock it first');
    } finally {
      jasmine.clock().uninstall();
    }
  });

  it('and forgotten shapes come from the twin, saved with the piece', async () => {
    set = await testSetOut([placed('p1', 1, [0, 0, 0]), placed('p2', 2, [4, 0, 0])], (api) =>
      api.pieces.set(1, boxed(api.pieces.get(1)!)),
    );
    await others().mirrorShapes({
      kind: 'mirror-forgotten',
      a: 'p2',
      piece: 2,
      of: 1,
      shapes: 1,
      at: [0, 0, 0],
    });
    const [saved] = set.api.saved;
    expect([saved!.id, saved!.document.proxies.length]).toEqual([2, 1]);
    expect((saved!.document.proxies[0]!.shape as { center: number[] }).center).toEqual([-0.5, 0.5, 0.5]);
    expect(set.store.sourceOf({ piece: 2, version: null })!.document.proxies.length).toBe(1);
  });

  it('pieces that left apart are put together by their manifests, and what has moved since is said', async () => {
    const manifest = (mesh: string, position: [number, number, number]) => ({
      name: `${mesh}.manifest.json`,
      text: JSON.stringify({
        manifest: 3,
        target: 'prefix-tags',
        piece: mesh,
        mesh,
        space: { unit: 'm', up: 'y', handedness: 'right' },
        container: 'glb',
        files: [],
        pivot: { anchor: 'numeric', position, rotation: [0, 0, 0, 1] },
        family: null,
        meshes: [],
        proxies: [],
        clearances: [],
        hierarchy: [],
        source: [],
      }),
    });
    const pivot = (id: number, position: [number, number, number]) => {
      const document = set.api.pieces.get(id)!;
      set.api.pieces.set(id, { ...document, meshName: `Post${id}`, pivot: { ...document.pivot, position } });
    };
    set = await testSetOut([placed('p1', 1, [9, 9, 9])]);
    pivot(1, [1, 0, 0]);
    pivot(2, [2, 0, 0]);
    await set.store.refresh(1);
    const pieces = [
      { id: 1, meshName: 'Post1' },
      { id: 2, meshName: 'Post2' },
    ];
    await others().putTogether([manifest('Post1', [1, 0, 0]), manifest('Post2', [2, 0, 0])], pieces);
    expect(set.placements().map(({ piece, position }) => [piece, position[0]])).toEqual([
      [1, 1],
      [2, 2],
    ]);
    expect(set.said()).toBe('2 pieces stand where the manifests have them; exactly as they were made.');
    await others().putTogether([manifest('Post2', [2.03, 0, 0]), manifest('Oar', [0, 0, 0])], pieces);
    expect(set.said()).toBe(
      '1 piece stands where the manifests have it; 1 of them off by up to 30.0 mm: their pivots have moved since they were delivered; no piece of the yard is named Oar.',
    );
    await expectAsync(others().putTogether([{ name: 'x.json', text: '{' }], pieces)).toBeRejectedWithError(
      /x.json is no JSON/,
    );
  });

  it('walks are kept until the set changes', async () => {
    set = await testSetOut();
    const trial = set.get(SetOutTrial);
    const walk = { agent: 'deckhand' } as never;
    set.jobs['walkSet']!.and.resolveTo(walk);
    await trial.walk(set.store.rules.agents[0]!);
    expect(shown(trial.walks$).length).toBe(1);
    const run = { played: { frames: 2 }, trial: {} } as never;
    set.jobs['acrossSet']!.and.resolveTo(run);
    await trial.tryAcross({ kind: 'roll', what: 'ball', radius: 0.25, sides: null, way: [1, 0] });
    expect(shown(trial.played$)).toBe(run);
    selection().choose('p1');
    acts().shift([1, 0, 0]);
    expect([shown(trial.walks$), shown(trial.played$)]).toEqual([[], null]);
  });
});
