import { currentDocument, inventoryOf, type Pivot, planDelivery } from '@yard-brace/core';
import { Picking, type Picked } from '../../../../state/picking';
import { Selection } from '../../../../state/selection';
import { ShelfStore } from '../../../../state/shelf-store';
import { ViewMarks } from '../../../../state/view-marks';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { postPiece, shelfPiece, threeParts } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { anchorOfCell, anchorOfPick, cellOf, pivotWords } from './anchor-words';
import { PivotStep } from './pivot-step';

const picked = (over: Partial<Picked> = {}): Picked => ({
  kind: 'vertex',
  at: [1, 2, 3],
  normal: [0, 1, 0],
  edge: [
    [0, 0, 0],
    [0, 2, 0],
  ],
  part: 'n2',
  ...over,
});

describe('the pivot step', () => {
  let bench: TestBench;
  let page: TestPage<PivotStep>;
  beforeEach(async () => {
    bench = await testBench(postPiece(threeParts()));
    bench.api.shelf = [
      shelfPiece(7, 'Far post', { family: 'posts' }),
      shelfPiece(8, 'Near post', { family: 'posts' }),
    ];
    await bench.get(ShelfStore).load(1);
    page = await bench.show(PivotStep);
  });
  const pivot = () => bench.store.document.pivot;
  const pivotOfPart = (id: string): Pivot | null | undefined =>
    bench.store.document.nodes.find((node) => node.id === id)!.pivot as Pivot | null | undefined;
  const answer = async (...points: Picked[]) => {
    for (const point of points) {
      bench.get(Picking).pick(point);
      await page.rest();
    }
  };
  const radio = async (anchor: string) => {
    page.one(`#anchor-${anchor}`).click();
    await page.rest();
  };
  it('says how far the pivot has gone since the last delivery', async () => {
    expect(page.has('[data-testid=pivot-drift]')).toBeFalse();
    const { profile: target, document } = bench.store;
    const inventory = inventoryOf(planDelivery(document, target));
    const at = '2026-01-02T03:04:05Z';
    bench.store.delivered({ id: 1, version: 1, target: target.id, agreed: true, at, choices: {}, inventory });
    await page.rest();
    const drift = () => page.one('[data-testid=pivot-drift]').textContent!;
    expect(drift()).toContain(`Where it was delivered for ${target.name}`);
    await page.type('Pivot y in metres', String(pivot().position[1] + 0.25));
    expect(drift()).toMatch(/The pivot of “.+” moved by 250.0 mm/);
  });

  const undone = () => {
    bench.store.undo();
    return pivot();
  };

  it('is put at named places of the bounds, each one edit that can be undone', async () => {
    await radio('base-centre');
    expect([pivot().anchor, pivot().position]).toEqual(['base-centre', [1, 0, 1]]);
    await radio('centre');
    expect(pivot().position).toEqual([1, 1, 1]);
    expect(undone().anchor).toBe('base-centre');
    bench.jobs['measuredPivot']!.and.resolveTo([0.5, 0, 0.5]);
    await radio('lowest-contact');
    expect([pivot().anchor, pivot().position]).toEqual(['lowest-contact', [0.5, 0, 0.5]]);
  });

  it('is put at a point of the cube, by mouse or key, and the cube shows where it is', async () => {
    page.one<SVGElement>('circle[aria-label="right top front"]').dispatchEvent(new Event('click'));
    await page.rest();
    expect([pivot().anchor, pivot().cell, pivot().position]).toEqual(['bounds', [1, 1, 1], [2, 2, 2]]);
    expect(page.one('circle[aria-checked=true]').getAttribute('aria-label')).toBe('right top front');
    for (const [code, name, place] of [
      ['Enter', 'left bottom back', [0, 0, 0]],
      [' ', 'middle', [1, 1, 1]],
    ] as const) {
      page
        .one<SVGElement>(`circle[aria-label="${name}"]`)
        .dispatchEvent(new KeyboardEvent('keydown', { key: code, code: code === ' ' ? 'Space' : code }));
      await page.rest();
      expect(pivot().position).toEqual([...place]);
    }
  });

  it('is typed in metres, and says how far the geometry reaches from it', async () => {
    await page.type('Pivot y in metres', '0.5');
    expect([pivot().anchor, pivot().position[1]]).toEqual(['numeric', 0.5]);
    expect(page.one('yb-position-panel').textContent).toContain('-0.500');
    expect(page.one('yb-position-panel').textContent).toContain('1.500');
  });

  it('is picked in the view, put at the middle of the selection, or snapped to the grid', async () => {
    await page.press('Pick a point');
    expect(bench.get(Picking).asked).toContain('Pick a vertex');
    await answer(picked({ kind: 'edge middle' }));
    expect([pivot().anchor, pivot().position]).toEqual(['edge', [1, 2, 3]]);
    await page.press('Snap to grid');
    expect([pivot().anchor, pivot().position]).toEqual(['numeric', [0, 4, 4]]);
    expect(page.button('Centre of the selection').disabled).toBeTrue();
    bench.get(Selection).chooseFaces(new Uint8Array(8).fill(1), 'only');
    await page.rest();
    // Cancelled, nothing changes.
    const before = pivot();
    await page.press('Pick a point');
    bench.get(Picking).cancel();
    await page.rest();
    expect(pivot()).toBe(before);
  });

  it('that is locked is not moved by anything but its own unlocking', async () => {
    await page.tick('locked');
    expect(pivot().locked).toBeTrue();
    const before = pivot();
    page.one<SVGElement>('circle[aria-label="right top front"]').dispatchEvent(new Event('click'));
    await page.type('Pivot y in metres', '9');
    for (const name of ['Pick a point', 'Snap to grid', 'Along an edge', 'Through two points', 'World'])
      expect(page.button(name).disabled).withContext(name).toBeTrue();
    expect(pivot()).toEqual(before);
    await page.tick('locked');
    expect(pivot().locked).toBeFalse();
  });

  it('a hinge runs along an edge of the piece or through two points, is tried, kept as a pose, and taken away', async () => {
    await page.choose('Whose pivot', 'leaf');
    await page.press('Along an edge');
    await answer(
      picked({
        feature: [
          [0, 0, 0],
          [0, 2, 0],
        ],
        edge: [
          [0, 0, 0],
          [1, 2, 0],
        ],
      }),
    );
    expect(pivotOfPart('n2')!.hinge!.axis).toEqual([0, 1, 0]);
    // An edge between triangles only is none.
    await page.press('Along an edge');
    await answer(picked());
    expect(bench.said()).toContain('only one between triangles');
    await page.press('Through two points');
    await answer(picked({ at: [0, 0, 0] }), picked({ at: [2, 0, 0] }));
    expect(pivotOfPart('n2')!.hinge!.axis).toEqual([1, 0, 0]);
    expect(pivotOfPart('n2')!.position).toEqual([0, 0, 0]);
    await page.type('To', '120');
    expect(pivotOfPart('n2')!.hinge!.opens).toEqual([0, 120]);
    bench.get(ViewMarks).swing({ part: 'n2', degrees: 60 });
    await page.rest();
    expect(page.text).toContain('60°');
    bench.jobs['operate']!.and.returnValue(new Promise(() => undefined));
    await page.press('Keep this pose');
    expect(shown(bench.get(ViewMarks).swing$)).toBeNull();
    const [, operation] = bench.jobs['operate']!.calls.mostRecent().args;
    expect(operation).toEqual(jasmine.objectContaining({ op: 'move', parts: ['n2'], about: [0, 0, 0] }));
    await page.press('No axis');
    expect(pivotOfPart('n2')!.hinge).toBeUndefined();
  });

  it('an axle is found in a round, runs along an axis or as typed, and may slide', async () => {
    await page.choose('Whose pivot', 'leaf');
    bench.jobs['roundAxis']!.and.resolveTo({ center: [1, 1, 0], axis: [0, 0, 1], radius: 0.3, deviation: 0 });
    page.one('[data-testid=axle]').click();
    await page.rest();
    await answer(picked({ face: 4 }));
    expect([pivotOfPart('n2')!.position, pivotOfPart('n2')!.hinge!.axis]).toEqual([
      [1, 1, 0],
      [0, 0, 1],
    ]);
    expect(bench.jobs['roundAxis']!.calls.mostRecent().args[1]).toBe(4);
    bench.jobs['roundAxis']!.and.resolveTo(null);
    page.one('[data-testid=axle]').click();
    await page.rest();
    await answer(picked({ face: 4 }));
    expect(bench.said()).toContain('not round');
    page.one<HTMLButtonElement>('[aria-label="Axis along y"]').click();
    await page.rest();
    expect(pivotOfPart('n2')!.hinge!.axis).toEqual([0, 1, 0]);
    await page.type('Axis x', '1');
    expect(pivotOfPart('n2')!.hinge!.axis[0]).toBeGreaterThan(0.7);
    const [along] = pivotOfPart('n2')!.hinge!.axis;
    await page.press('slides');
    expect(pivotOfPart('n2')!.hinge!.slides).toEqual([0, 0.5]);
    bench.get(ViewMarks).swing({ part: 'n2', degrees: 0, metres: 0.25 });
    await page.rest();
    bench.jobs['operate']!.and.returnValue(new Promise(() => undefined));
    await page.press('Keep this pose');
    const { by } = bench.jobs['operate']!.calls.mostRecent().args[1];
    expect(by[0]).toBeCloseTo(0.25 * along, 9);
  });

  it('a swing that was tried on one part ends when another is turned to', async () => {
    await page.choose('Whose pivot', 'leaf');
    bench.get(ViewMarks).swing({ part: 'n2', degrees: 20 });
    await page.choose('Whose pivot', 'sill');
    expect(shown(bench.get(ViewMarks).swing$)).toBeNull();
  });

  it('axes follow an edge, stand on a face, or are the world’s', async () => {
    await page.choose('Whose pivot', 'the piece');
    const axes = page.all<HTMLButtonElement>('yb-pivot-axes-panel button');
    axes[2]!.click();
    await answer(
      picked({
        edge: [
          [0, 0, 0],
          [1, 0, 1],
        ],
      }),
    );
    expect(page.text).toContain('rotated 45.0°');
    axes[0]!.click();
    await page.rest();
    expect(pivot().rotation).toEqual([0, 0, 0, 1]);
    expect(page.text).toContain('world axes');
  });

  it('all parts at once by a rule, but for those that are excepted; one follows another', async () => {
    await page.tick('');
    const boxes = page.all('yb-all-parts-panel tbody input');
    expect(boxes.length).toBe(3);
    boxes[0]!.click();
    await page.rest();
    page.all<HTMLButtonElement>('yb-all-parts-panel .act')[1]!.click();
    await page.rest();
    const anchors = () => ['n1', 'n2', 'n3'].map((id) => pivotOfPart(id)?.anchor);
    expect(anchors()[1]).toBe('centre');
    await page.choose('Whose pivot', 'sill');
    await page.choose('Follow the pivot of', 'leaf');
    expect(pivotOfPart('n3')).toEqual(jasmine.objectContaining({ follows: 'n2' }));
    expect(page.text).toContain('follows another');
  });

  it('each part is delivered on its own pivot when that is ticked', async () => {
    page.one('[data-testid=each-part] input').click();
    await page.rest();
    expect(bench.store.document.leaves).toBe('each-part');
  });

  it('joining a family says by how much the pivot moves, and to whose; leaving it says nothing', async () => {
    bench.jobs['familyMatch']!.and.resolveTo({ shift: [0, 0, 3], share: 0.84 });
    const family = page.one<HTMLInputElement>('input[aria-label=Family]');
    const join = async (name: string) => {
      family.value = name;
      family.dispatchEvent(new Event('input', { bubbles: true }));
      await page.rest();
      family.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true }));
      await page.rest();
    };
    await join('posts');
    // By the art that is the same, which lies three metres on; or by another thing that they have in common.
    expect(page.text).toContain('art, 84 %');
    expect(bench.proposals.proposal!.title).toContain('moves the pivot by 3.00 m, to where Far post has it');
    await page.press('modelling origin');
    expect(bench.proposals.proposal!.title).toContain('moves the pivot by 0.00 mm, to where Far post has it');
    await page.press('a place');
    await answer(picked({ at: [0, 1, 0] }));
    expect(bench.proposals.proposal!.title).toContain('moves the pivot by 1.00 m');
    expect(bench.store.document.family).toBeNull();
    bench.proposals.keep();
    await page.rest();
    expect(bench.store.document.family).toBe('posts');
    expect(page.text).toContain('With Far post, Near post.');
    await page.tick('lay them over it');
    expect(shown(bench.store.beside$)).toEqual([7, 8]);
    expect(shown(bench.store.laidOver$)).toBeTrue();
    await join('');
    expect(bench.store.document.family).toBeNull();
    expect(bench.proposals.proposal).toBeNull();
    // A family of nobody else is joined at once.
    await join('own');
    expect(bench.store.document.family).toBe('own');
    expect(currentDocument(bench.api.history).family).toBeNull();
  });

  it('the pivot of another piece is copied as a proposal', async () => {
    expect(page.button('Copy').disabled).toBeTrue();
    await page.choose('Copy the pivot of a piece', 'Near post');
    await page.press('Copy');
    expect(bench.proposals.proposal!.title).toContain('to where Near post has it');
  });

  it('a second pivot for presentation is put, typed and taken away, and the own one stays', async () => {
    const own = pivot();
    const presentation = () => bench.store.document.presentation;
    await page.press('At the centre');
    expect([presentation()!.anchor, presentation()!.position]).toEqual(['centre', [1, 1, 1]]);
    await page.press('At the base centre');
    expect(presentation()!.position).toEqual([1, 0, 1]);
    await page.type('Presentation pivot y', '2.5');
    expect(presentation()!.position).toEqual([1, 2.5, 1]);
    await page.press('Pick a place …');
    await answer(picked({ at: [7, 8, 9] }));
    expect(presentation()!.position).toEqual([7, 8, 9]);
    expect(pivot()).toEqual(own);
    await page.press('Remove');
    expect(presentation()).toBeNull();
    bench.store.undo();
    expect(presentation()!.position).toEqual([7, 8, 9]);
  });

  it('shows the pivots of all parts', async () => {
    await page.tick('show all');
    expect(shown(bench.get(ViewSettingsStore).settings$).pivots).toBeTrue();
  });
});

describe('anchors', () => {
  const at = (over: Partial<Pivot>): Pivot => ({
    position: [0, 0, 0],
    rotation: [0, 0, 0, 1],
    anchor: 'numeric',
    locked: false,
    ...over,
  });

  it('cells of the bounds are anchors, and the other way round', () => {
    expect([anchorOfCell([0, -1, 0]), anchorOfCell([0, 0, 0]), anchorOfCell([1, 0, 0])]).toEqual([
      'base-centre',
      'centre',
      'bounds',
    ]);
    expect(cellOf(at({ anchor: 'base-centre' }))).toEqual([0, -1, 0]);
    expect(cellOf(at({ anchor: 'centre' }))).toEqual([0, 0, 0]);
    expect(cellOf(at({ anchor: 'bounds', cell: [1, 1, 0] }))).toEqual([1, 1, 0]);
    expect(cellOf(at({ anchor: 'origin' }))).toBeNull();
  });

  it('what was picked says which anchor it is', () => {
    expect(
      ['vertex', 'edge', 'edge middle', 'face', 'face centre'].map((kind) => anchorOfPick({ kind })),
    ).toEqual(['vertex', 'edge', 'edge', 'face', 'face']);
  });

  it('a pivot is said in a word or two', () => {
    expect(pivotWords(at({ anchor: 'base-centre', locked: true }), true)).toBe(
      'base centre, follows another, locked',
    );
    expect(pivotWords(at({ anchor: 'centroid' }), false)).toBe('centroid');
  });
});
