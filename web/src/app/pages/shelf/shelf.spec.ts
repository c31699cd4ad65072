import type { PieceSummary } from '@yard-brace/contract';
import { currentDocument } from '@yard-brace/core';
import { type TestBench, testBench, TestPage } from '../../testing/bench';
import { postPiece, shelfPiece } from '../../testing/post';
import { TestBed } from '@angular/core/testing';
import { Notices } from '../../state/notices';
import { ShelfStore } from '../../state/shelf-store';
import { Ask } from '../../ui/ask';
import { shown } from '../../testing/shown';
import { ChosenBar } from './chosen-bar';
import { PieceCard } from './piece-card';
import { inRows, rowMeasures, ShelfCards } from './shelf-cards';
import { ALL_PIECES, filteredShelf, type ShelfFilter } from './shelf-filter';
import { SavedFilters } from './saved-filters';
import { shelfRow, ShelfTable } from './shelf-table';
import { ShelfTools } from './shelf-tools';

const CLEAR = shelfPiece(0, '').tally;
const pieces: PieceSummary[] = [
  shelfPiece(1, 'Post 10', { triangles: 5, tally: { ...CLEAR, pivot: 'look' } }),
  shelfPiece(2, 'Post 9', { triangles: 50, shapes: 1, tally: { ...CLEAR, names: 'stopped', pivot: 'look' } }),
  shelfPiece(3, 'Crate', { triangles: 500, shapes: 1204, meshName: 'Crate', cameFrom: 'crate.obj' }),
];

describe('a filtered shelf', () => {
  const ids = (change: Partial<ShelfFilter>) =>
    filteredShelf(pieces, { ...ALL_PIECES, ...change }).map(({ id }) => id);

  it('goes by name, numbers in their order, or by what is asked for', () => {
    expect(ids({})).toEqual([3, 2, 1]);
    expect(ids({ order: 'triangles' })).toEqual([3, 2, 1]);
    expect(ids({ name: ' post ' })).toEqual([2, 1]);
    expect(ids({ order: 'open' })[0]).toBe(2);
  });

  it('asks for a stamp, in any step or in one', () => {
    expect(ids({ stamp: 'look', step: 'pivot' })).toEqual([2, 1]);
    expect(ids({ stamp: 'stopped' })).toEqual([2]);
    expect(ids({ stamp: 'stopped', step: 'pivot' })).toEqual([]);
    // A step alone asks for nothing.
    expect(ids({ step: 'pivot' })).toEqual([3, 2, 1]);
  });

  it('asks for how they stand to what left, how far shapes lie off, and the file they came from', () => {
    const left = (agreed: boolean, changed: boolean) => [{ target: 'prefix tags', agreed, changed }];
    const shelf = [
      shelfPiece(1, 'A', { delivered: left(true, false), deviation: 0.02 }),
      shelfPiece(2, 'B', { delivered: left(true, true), deviation: 0.3 }),
      shelfPiece(3, 'C', {
        delivered: [...left(true, false), ...left(false, false)],
        cameFrom: 'gate final.obj',
      }),
      shelfPiece(4, 'D'),
    ];
    const of = (change: Partial<ShelfFilter>) =>
      filteredShelf(shelf, { ...ALL_PIECES, ...change }).map(({ name }) => name);
    expect([
      of({ left: 'never' }),
      of({ left: 'changed' }),
      of({ left: 'differs' }),
      of({ left: 'up to date' }),
    ]).toEqual([['D'], ['B'], ['C'], ['A']]);
    expect([of({ apartMetres: 0.05 }), of({ name: 'FINAL' })]).toEqual([['B'], ['C']]);
  });

  it('is quick among five thousand', () => {
    const shelf = Array.from({ length: 5000 }, (_, i) => shelfPiece(i + 1, `Post ${(i * 37) % 5000}`));
    const found = filteredShelf(shelf, { ...ALL_PIECES, name: 'post 12' });
    expect(found.map(({ name }) => name).slice(0, 3)).toEqual(['Post 12', 'Post 120', 'Post 121']);
  });

  it('does not change the shelf it was given', () => {
    filteredShelf(pieces, ALL_PIECES);
    expect(pieces.map(({ id }) => id)).toEqual([1, 2, 3]);
  });
});

describe('rows of cards', () => {
  it('hold as many as fit, at least one, and share the width', () => {
    expect([rowMeasures(100).columns, rowMeasures(470).columns, rowMeasures(1200).columns]).toEqual([
      1, 2, 5,
    ]);
    expect(rowMeasures(600).pixels).toBeGreaterThan(rowMeasures(480).pixels);
    expect(inRows([1, 2, 3, 4, 5], 2)).toEqual([[1, 2], [3, 4], [5]]);
    expect(inRows([], 3)).toEqual([]);
  });
});

describe('the shelf', () => {
  let bench: TestBench;
  beforeEach(async () => {
    bench = await testBench(postPiece());
    bench.api.shelf = pieces;
    await bench.get(ShelfStore).load(1);
  });
  const show = async <T>(type: new () => T, inputs: Record<string, unknown>) => {
    const fixture = TestBed.createComponent(type);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    const page = new TestPage(fixture);
    await page.rest();
    return page;
  };

  it('a card says name, size and counts; its link is the name, its box chooses it', async () => {
    const page = await show(PieceCard, { piece: pieces[1] });
    expect(page.one('a').textContent!.trim()).toBe('Post 9');
    expect(page.one('a').getAttribute('href')).toBe('/pieces/2');
    expect(page.text).toContain('50 triangles, 1 shape');
    let chosen = 0;
    page.fixture.componentInstance.choose.subscribe(() => chosen++);
    page.one('input[aria-label="Choose Post 9"]').click();
    expect(chosen).toBe(1);
  });

  it('a piece that cannot be opened says what to do, one without a picture that it is drawn', async () => {
    const page = await show(PieceCard, { piece: { ...pieces[0]!, broken: 'torn' } });
    expect(page.text).toContain('open it to go back to one');
    expect((await show(PieceCard, { piece: pieces[0] })).text).toContain('drawing …');
  });

  it('cards stand in a list of as many items as pieces', async () => {
    const page = await show(ShelfCards, { pieces, chosen: new Set([2]) });
    await new Promise((resolve) => setTimeout(resolve, 50));
    await page.rest();
    expect(page.all('[role=listitem]').length).toBe(3);
    expect(page.all('yb-piece-card.chosen').length).toBe(1);
  });

  it('the table has a row a piece, and a column a step, sortable by each', async () => {
    expect(shelfRow(pieces[1]!).names).not.toBe(shelfRow(pieces[0]!).names);
    const page = await show(ShelfTable, { pieces, chosen: new Set() });
    const heads = page.all('th').map((head) => head.textContent!.trim());
    expect(heads).toEqual([
      'Chosen',
      'Piece',
      'Triangles',
      'Shapes',
      'Faults',
      'Deviation',
      'Intake',
      'Parts',
      'Size',
      'Pivot',
      'Proxies',
      'Names',
      'Trial',
      'Delivery',
      'Delivered',
      'Saved',
    ]);
    expect(page.all('th[aria-sort]').length).toBe(15);
  });

  it('filters and looks are told to the page; the step is asked for once a stamp is', async () => {
    const page = await show(ShelfTools, { filter: ALL_PIECES, look: 'cards' });
    const told: ShelfFilter[] = [];
    page.fixture.componentInstance.filterChange.subscribe((filter) => told.push(filter));
    let look = '';
    page.fixture.componentInstance.lookChange.subscribe((next) => (look = next));
    const field = page.one<HTMLInputElement>('input');
    field.value = 'po';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await page.press('By triangles');
    await page.press('Table');
    expect(told).toEqual([
      { ...ALL_PIECES, name: 'po' },
      { ...ALL_PIECES, order: 'triangles' },
    ]);
    expect(look).toBe('table');
    expect(page.has('[data-testid=filter-step]')).toBeFalse();
    page.fixture.componentRef.setInput('filter', { ...ALL_PIECES, stamp: 'look' });
    await page.rest();
    expect(page.has('[data-testid=filter-step]')).toBeTrue();
  });

  it('filters are saved under what they ask for, taken again, and forgotten', async () => {
    localStorage.clear();
    const page = await show(SavedFilters, { filter: ALL_PIECES });
    expect(page.all('button').length).toBe(0);
    page.fixture.componentRef.setInput('filter', { ...ALL_PIECES, stamp: 'stopped', step: 'pivot' });
    await page.rest();
    await page.press('Save filter');
    expect(page.text).toContain('Forget filter');
    const again = await show(SavedFilters, { filter: ALL_PIECES });
    const told: ShelfFilter[] = [];
    again.fixture.componentInstance.chosen.subscribe((filter) => told.push(filter));
    await again.choose('Saved filters', 'stopped in pivot');
    expect(told).toEqual([{ ...ALL_PIECES, stamp: 'stopped', step: 'pivot' }]);
    await page.press('Forget filter');
    localStorage.setItem('yard-brace.shelf-filters', '{"torn');
    expect((await show(SavedFilters, { filter: ALL_PIECES })).all('yb-choice').length).toBe(0);
    localStorage.clear();
  });

  it('chosen pieces are removed only when that is answered, and delivered at once', async () => {
    const page = await show(ChosenBar, { pieces: pieces.slice(0, 2) });
    expect(page.text).toContain('2 pieces chosen');
    expect(page.one('a[download]').getAttribute('href')).toBe('/api/yards/1/archive?pieces=1-2');
    const shelf = bench.get(ShelfStore);
    const remove = spyOn(shelf, 'remove').and.resolveTo();
    const deliver = spyOn(shelf, 'deliver').and.resolveTo();
    let none = 0;
    page.fixture.componentInstance.none.subscribe(() => none++);
    await page.press('Remove');
    const ask = bench.get(Ask);
    expect(shown(ask.question$)).toEqual(
      jasmine.objectContaining({ title: 'Remove 2 pieces?', accept: 'Remove 2 pieces', destructive: true }),
    );
    ask.answer(false);
    await page.rest();
    expect([remove.calls.count(), none]).toEqual([0, 0]);
    await page.press('Remove');
    ask.answer(true);
    await page.rest();
    expect([remove.calls.count(), none]).toEqual([1, 1]);
    await page.press('Deliver for prefix tags');
    expect(deliver).toHaveBeenCalledOnceWith(pieces.slice(0, 2));
    await page.press('Choose none');
    expect(none).toBe(2);
  });

  it('chosen pieces leave in one file by a name that is asked for, for every target', async () => {
    const page = await show(ChosenBar, { pieces: pieces.slice(0, 2) });
    const sent = spyOn(bench.api, 'deliverTogether').and.callThrough();
    await page.press('Deliver in one file');
    expect(page.one<HTMLInputElement>('input[aria-label="Name of the file"]').value).toBe('Yard');
    await page.type('Name of the file', 'Quayside');
    await page.press('Deliver 2 in one file');
    expect(sent).toHaveBeenCalledOnceWith(1, {
      pieces: pieces.slice(0, 2).map(({ id, version }) => ({ id, version })),
      target: 'prefix-tags',
      choices: { together: 'Quayside' },
      answered: false,
    });
    await page.tick('Placed copies are seen to');
    await page.press('Deliver 2 in one file');
    expect(sent.calls.mostRecent().args[1].answered).toBeTrue();
    expect(bench.get(Notices).notices.map(({ text }) => text)).toEqual([
      '2 pieces were delivered for prefix tags as Quayside and read back as drawn; the Deliveries page has the files.',
    ]);
  });

  it('chosen pieces are renamed by a pattern in an undo step each, which can be taken back at once', async () => {
    const page = await show(ChosenBar, { pieces: [{ ...pieces[0]!, version: 1 }] });
    const meshName = () => currentDocument(bench.api.history).meshName;
    const before = meshName();
    await page.press('Rename by a pattern');
    await page.type('Pattern', '{nothing}');
    expect(page.one('[role=alert]').textContent).toContain('nothing');
    await page.type('Pattern', 'SG_{subject:pascal}_{variant:2}');
    expect(page.one('[data-testid=piece-renames]').textContent).toContain('SG_Post_10_01');
    await page.press('Rename 1 piece');
    expect([meshName(), bench.api.history.edits.length]).toEqual(['SG_Post_10_01', 1]);
    await page.press('Undo the rename');
    expect([meshName(), page.text.includes('Undo the rename')]).toEqual([before, false]);
  });

  it('a piece that was changed meanwhile keeps its name, and that is said', async () => {
    const page = await show(ChosenBar, { pieces: [{ ...pieces[0]!, version: 7 }] });
    await page.press('Rename by a pattern');
    await page.press('Rename 1 piece');
    expect(bench.get(Notices).notices.map(({ text }) => text)).toEqual(['Post 10: Somebody was first.']);
    expect(page.text).not.toContain('Undo the rename');
  });
});
