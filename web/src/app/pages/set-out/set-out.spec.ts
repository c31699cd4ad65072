import { placedPieces, type SetCheck, type Vec3 } from '@yard-brace/core';
import { SetOutPieces } from '../../state/set-out-pieces';
import { SetOutCheck } from '../../state/set-out-check';
import { SetOutDrag } from '../../state/set-out-drag';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutSelection } from '../../state/set-out-selection';
import { PlacedLayer } from '../../viewport/layers/placed-layer';
import { Viewport } from '../../viewport/viewport';
import { canvasOnPage, crateArt } from '../../testing/crate';
import { delivered, shelfPiece } from '../../testing/post';
import { placed, type TestSetOut, testSetOut } from '../../testing/set-out';
import { shown } from '../../testing/shown';
import { ArrangeTool } from './arrange-tool';
import { type CatchOptions, catchPlace, pointedPlace } from './catch-place';
import { ChosenPanel } from './chosen-panel';
import { DeliverPanel } from './deliver-panel';
import { MeetPanel } from './meet-panel';
import { PieceStrip } from './piece-strip';
import { PlacedList } from './placed-list';
import { SetOutBar } from './set-out-bar';
import { SwapPanel } from './swap-panel';

let set: TestSetOut;
afterEach(() => localStorage.clear());

describe('the sheet of a set-out', () => {
  beforeEach(async () => (set = await testSetOut()));

  it('says where a piece stands, takes numbers, and does with it what its buttons say', async () => {
    set.get(SetOutSelection).choose('p2');
    const panel = await set.show(ChosenPanel);
    expect(panel.text).toContain('Post 1 2');
    const x = panel.one<HTMLInputElement>('[aria-label="x of the pivot"]');
    expect(x.value).toBe('4 m');
    x.value = '2.5 + 0.25';
    x.dispatchEvent(new Event('change'));
    expect(set.placements()[1]!.position).toEqual([2.75, 0, 0]);
    await panel.rest();
    await panel.press('+90°');
    expect(set.placements()[1]!.rotation[1]).toBeCloseTo(Math.SQRT1_2, 12);
    await panel.press('Mirror');
    expect(panel.text).toContain('An instance of scale −1');
    await panel.press('Lock');
    expect(panel.text).toContain('nothing moves it');
    await panel.press('Unlock');
    await panel.press('Delete');
    expect(set.placements().map(({ id }) => id)).toEqual(['p1']);
  });

  it('repeats along its own x by its own length', async () => {
    set.get(SetOutSelection).choose('p2');
    const panel = await set.show(ChosenPanel);
    // A post is two metres to each side.
    expect(panel.one<HTMLInputElement>('[aria-label="Step"]').value).toBe('2 m');
    await panel.press('Repeat');
    expect(set.placements().at(-1)!.position).toEqual([6, 0, 0]);
    expect(panel.text).toContain('2 pieces');
    await panel.press('Group');
    expect(panel.text).toContain('Ungroup');
    // A step that was typed is that of what is chosen, and no other's.
    await panel.type('Step', '3.5');
    expect(panel.one<HTMLInputElement>('[aria-label="Step"]').value).toBe('3.5 m');
    set.get(SetOutSelection).choose('p1');
    await panel.rest();
    expect(panel.one<HTMLInputElement>('[aria-label="Step"]').value).toBe('2 m');
  });

  it('lists what is placed, and goes to what is clicked', async () => {
    const list = await set.show(PlacedList);
    expect(list.text).toContain('Placed, 2');
    list.one<HTMLButtonElement>('[data-row=p2] button').click();
    expect([...set.get(SetOutSelection).ids]).toEqual(['p2']);
    expect(shown(set.get(SetOutLookStore).goTo$)!.ids).toEqual(['p2']);
    set.store.put('delete', [], ['p1', 'p2']);
    await list.rest();
    expect(list.text).toContain('Nothing stands here yet');
  });

  it('offers versions that left, then the family, then the rest; materials are kept by placement', async () => {
    const document = { ...set.api.pieces.get(1)!, family: 'posts' };
    set.api.pieces.set(1, document);
    await set.store.refresh(1);
    set.get(SetOutSelection).choose('p1');
    const panel = await set.show(SwapPanel, {
      pieces: [
        shelfPiece(1, 'Post 1'),
        shelfPiece(2, 'Post 2'),
        shelfPiece(3, 'Post 3', { family: 'posts' }),
      ],
    });
    const wanted = panel.fixture.componentInstance as unknown as { wanted(): { label: string }[] };
    expect(wanted.wanted().map(({ label }) => label)).toEqual(['Post 3 (same family)', 'Post 2']);
    expect(panel.text).toContain('all 2 of this piece at once');
  });

  it('takes a piece in the hand by a click on the strip, finds one by name, and lets it go', async () => {
    const strip = await set.show(PieceStrip, {
      pieces: [1, 2, 3].map((id) => shelfPiece(id, `Post ${id}`, id === 3 ? { broken: 'is damaged.' } : {})),
    });
    await strip.press('Post 2');
    await strip.rest();
    expect(set.get(SetOutDrag).inHand!.placement.piece).toBe(2);
    await strip.press('Post 2');
    expect(set.get(SetOutDrag).inHand).toBeNull();
    expect(strip.button('Post 3').disabled).toBeTrue();
  });

  it('hides what is chosen from the picture and shows it again, and cuts above a height', async () => {
    set.get(SetOutSelection).choose('p1');
    const bar = await set.show(SetOutBar);
    await bar.press('Hide chosen');
    expect([...set.get(SetOutLookStore).look.hidden]).toEqual(['p1']);
    await bar.press('Show all');
    expect(set.get(SetOutLookStore).look.hidden.size).toBe(0);
    await bar.tick('cut above');
    expect(set.get(SetOutLookStore).look.cut).toBeCloseTo(2 * 0.6, 6);
  });

  it('tells faults worst first, goes there, and mends by what the button says', async () => {
    const faults: SetCheck['faults'] = [
      { kind: 'mirror-forgotten', a: 'p1', piece: 1, of: 2, shapes: 3, at: [0, 0, 0] },
      { kind: 'floats', a: 'p2', on: null, metres: 0.2, at: [4, 0.2, 0] },
      { kind: 'no-shapes', a: 'p1', piece: 1, count: 2, at: [0, 0, 0] },
    ];
    const check = set.get(SetOutCheck) as unknown as { found$: { next(found: SetCheck): void } };
    check.found$.next({ faults, pairs: 1, meeting: 2 });
    const mirror = spyOn(set.get(SetOutPieces), 'mirrorShapes');
    const panel = await set.show(MeetPanel);
    expect(panel.text).toContain('3 faults; 2 seams, all meet');
    expect(panel.all('[data-fault]').map((each) => each.getAttribute('data-fault'))).toEqual([
      'mirror-forgotten',
      'floats',
      'no-shapes',
    ]);
    await panel.press('Mirror 3 shapes onto it');
    expect(mirror).toHaveBeenCalled();
    await panel.press('Set it down onto the ground');
    expect(set.placements()[1]!.position[1]).toBeCloseTo(-0.2, 12);
    await panel.press('Go there');
    expect([...set.get(SetOutSelection).ids]).toEqual(['p1']);
  });

  it('delivers what is saved, says what was read back, and asks before placed copies break', async () => {
    set.api.deliverSet.and.resolveTo([delivered(4)]);
    const panel = await set.show(DeliverPanel);
    expect(panel.text).toContain('2 pieces of 1 kind leave');
    await panel.press('Deliver 2 pieces');
    expect(set.api.deliverSet.calls.mostRecent().args).toEqual([
      1,
      jasmine.objectContaining({ version: 1, form: 'one-file', name: 'Slip', answered: false }),
    ]);
    expect(panel.one('[data-testid=set-verdict]').textContent).toContain('as drawn');
    const { ApiError } = await import('../../api/api');
    set.api.deliverSet.and.rejectWith(new ApiError('refused', 'The pivot moved.'));
    await panel.press('Deliver 2 pieces');
    expect(panel.text).toContain('The pivot moved.');
    await panel.tick('placed copies were seen to');
    set.api.deliverSet.and.resolveTo([delivered(5)]);
    await panel.press('Deliver 2 pieces');
    expect(set.api.deliverSet.calls.mostRecent().args[1].answered).toBeTrue();
    expect(panel.has('[data-testid=set-verdict]')).toBeTrue();
    // What left of one set-out is not told of another.
    await set.store.open(2);
    await panel.rest();
    expect(panel.has('[data-testid=set-verdict]')).toBeFalse();
  });
});

describe('the pointer in a set-out', () => {
  let viewport: Viewport;
  let layer: PlacedLayer;
  let canvas: HTMLCanvasElement;
  const art = crateArt([0, 1, 0]);
  const documents = new Map([['1', art.document]]);
  const standing = (...all: [string, Vec3][]) =>
    placedPieces({ placements: all.map(([id, at]) => placed(id, 1, at)) }, documents);

  beforeEach(async () => {
    set = await testSetOut([placed('p1', 1, [0, 0, 0]), placed('p2', 1, [6, 0, 0])]);
    canvas = canvasOnPage();
    viewport = new Viewport(canvas, { gridMetres: 1 });
    layer = new PlacedLayer(() => undefined);
    viewport.add(layer);
    layer.setArts(new Map([['1', art]]));
    layer.set(standing(['p1', [0, 0, 0]], ['p2', [6, 0, 0]]));
    viewport.rig.lookFrom('top');
    viewport.resize(400, 300);
    viewport.rig.fit({ min: [-10, 0, -8], max: [14, 2, 8] });
  });
  afterEach(() => {
    viewport.dispose();
    canvas.remove();
  });

  const options = (change: Partial<CatchOptions> = {}): CatchOptions => ({
    viewport,
    layer,
    others: standing(['p2', [6, 0, 0]]),
    moving: new Set(['p1']),
    gridMetres: 0.5,
    plan: true,
    free: false,
    ...change,
  });
  const caughtAt = (at: Vec3, change: Partial<CatchOptions> = {}) =>
    catchPlace(viewport.onScreen(at), standing(['p1', [0, 0, 0]])[0]!, options(change), (id) => id);

  it('catches the ends of neighbours in a plan, else the grid, else nothing', () => {
    // The art is two metres wide, and its neighbour begins at five.
    const ends = caughtAt([4.1, 0, 0.02])!;
    expect([ends.word, ends.at[0], ends.at[2]]).toEqual(['end of p2', 4, 0]);
    expect(caughtAt([-3.2, 0, 5.1])).toEqual({
      at: [-3, jasmine.any(Number) as unknown as number, 5],
      word: 'grid 500.0 mm',
    });
    const free = caughtAt([4.1, 0, 0.02], { free: true })!;
    expect([free.word, free.at[0]]).toEqual(['', jasmine.any(Number)]);
    expect(free.at[0]).toBeCloseTo(4.1, 2);
  });

  it('keeps what moves on its own height in a plan, and takes vertices in the free view', () => {
    const on = pointedPlace(viewport.onScreen([6.9, 2, 0.9]), 0, options({ plan: false }))!;
    expect([on.on!.id, on.on!.kind]).toEqual(['p2', 'vertex']);
    expect(on.at[1]).toBeCloseTo(2, 6);
    const flat = pointedPlace(viewport.onScreen([6.9, 2, 0.9]), 0.3, options())!;
    expect(flat.at[1]).toBe(0.3);
  });

  it('chooses by a click, drags only what is chosen, and lets the view be turned elsewhere', () => {
    const selection = set.get(SetOutSelection);
    const drag = set.get(SetOutDrag);
    const tool = new ArrangeTool({
      pick: (at) => layer.pick(viewport.rayAt(at)),
      catchAt: (at) => ({ at: at[0] > 200 ? [1, 0, 0] : [0, 0, 0], word: '' }),
      onScreen: (at) => viewport.onScreen(at),
      selection,
      drag,
    });
    const on = viewport.onScreen([0, 2, 0]);
    const pointer = (at: readonly [number, number], still = false) => ({
      at,
      pressed: true,
      still,
      shift: false,
      alt: false,
    });
    expect(tool.grabs(pointer(on))).toBeFalse();
    tool.up(pointer(on, true));
    expect([...selection.ids]).toEqual(['p1']);
    expect(tool.grabs(pointer(on))).toBeTrue();
    tool.move(pointer([390, on[1]]));
    expect(shown(drag.dragged$)!.by).toEqual([1, 0, 0]);
    tool.up(pointer([390, on[1]]));
    expect(set.placements()[0]!.position).toEqual([1, 0, 0]);
    // Given up by Escape, it stays.
    expect(tool.grabs(pointer(on))).toBeTrue();
    tool.move(pointer([390, on[1]]));
    expect(tool.key({ key: 'Escape' })).toBeTrue();
    tool.up(pointer([390, on[1]]));
    expect(set.placements()[0]!.position).toEqual([1, 0, 0]);
    // A click beside lets go.
    tool.up(pointer([5, 5], true));
    expect(selection.ids.size).toBe(0);
  });

  it('draws thousands with few calls; mirrored ones are met where they stand, hidden ones not at all', () => {
    const many = placedPieces(
      {
        placements: Array.from({ length: 3000 }, (_, i) =>
          placed(`q${i}`, 1, [(i % 60) * 3, 0, Math.floor(i / 60) * 3], { mirrored: i % 2 === 1 }),
        ),
      },
      documents,
    );
    layer.set(many);
    let meshes = 0;
    layer.object.traverseVisible((each) => void ('isMesh' in each && meshes++));
    expect(meshes).toBeLessThan(8);
    const above = (x: number, z: number) => viewport.rayAt(viewport.onScreen([x, 0, z]));
    expect(layer.pick(above(3, 3))!.id).toBe('q61');
    layer.hide(new Set(['q61']));
    expect(layer.pick(above(3, 3))).toBeNull();
    layer.hide(new Set());
    layer.moveTo([
      { ...many[0]!, ...placedPieces({ placements: [placed('q0', 1, [-6, 0, -6])] }, documents)[0]! },
    ]);
    expect(layer.pick(above(-6, -6))!.id).toBe('q0');
    // Looked at from far, so many are boxes; what is dragged stays where it is dragged to meanwhile.
    layer.beforeFrame({ metresPerPixel: () => 10, towardsEye: () => [0, 1, 0] });
    expect(layer.pick(above(-6, -6))!.id).toBe('q0');
    layer.set(many);
    expect(layer.pick(above(-6, -6))).toBeNull();
    expect(layer.boundsOf([many[0]!])).toEqual({ min: [-1, -1, -1], max: [1, 1, 1] });
  });
});
