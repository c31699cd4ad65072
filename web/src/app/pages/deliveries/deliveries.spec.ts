import { TestBed } from '@angular/core/testing';
import type { DeliveryEntry } from '@yard-brace/contract';
import {
  applyEdit,
  inventoryOf,
  pivotEdit,
  planDelivery,
  PREFIX_TAGS,
  writeGlb,
  plainMesh,
  plainNode,
} from '@yard-brace/core';
import { type TestBench, testBench, TestPage } from '../../testing/bench';
import { crateArt } from '../../testing/crate';
import { delivered, postDocument } from '../../testing/post';
import { readBackFiles } from '../../workers/jobs/read-back-files';
import { DeliveriesPage } from './deliveries-page';
import { SheetPage } from './sheet-page';
import { bookDays, verdictText, WHOLE_BOOK } from './dispatch-book';

const entry = (id: number, change: Partial<DeliveryEntry> = {}): DeliveryEntry => ({
  id,
  piece: { id: 1, name: 'Post' },
  version: id,
  target: 'prefix-tags',
  targetName: 'prefix tags',
  at: `2026-03-0${id}T10:00:00.000Z`,
  person: null,
  place: null,
  inventory: null,
  agreed: true,
  shapes: 2,
  bytes: 1200,
  points: 20,
  differ: 0,
  substituted: 0,
  ...change,
});

describe('the dispatch book', () => {
  const book = [
    entry(3, { target: 'twin-file', targetName: 'twin file', agreed: false, differ: 2 }),
    entry(2, { piece: { id: 2, name: 'Sluice gate' } }),
    entry(1),
  ];
  const ids = (change: object) =>
    bookDays(book, { ...WHOLE_BOOK, ...change }).flatMap(({ entries }) => entries.map(({ id }) => id));

  it('goes by day, and is found by piece, target and verdict', () => {
    expect(bookDays(book, WHOLE_BOOK).length).toBe(3);
    expect([ids({ name: ' sluice' }), ids({ target: 'twin-file' }), ids({ verdict: 'agreed' })]).toEqual([
      [2],
      [3],
      [2, 1],
    ]);
  });

  it('says “as drawn” only where every point agrees', () => {
    expect(verdictText({ agreed: true, differ: 0, substituted: 0 })).toBe('as drawn');
    expect(verdictText({ agreed: true, differ: 3, substituted: 3 })).toBe('as announced, 3 substituted');
    expect(verdictText({ agreed: false, differ: 4, substituted: 1 })).toBe('3 differ');
  });
});

describe('the deliveries page', () => {
  let bench: TestBench;
  let page: TestPage<DeliveriesPage>;
  const open = async (book: DeliveryEntry[]) => {
    bench = await testBench();
    bench.api.book = book;
    bench.api.left = [delivered(1, 1), delivered(2, 1)];
    const fixture = TestBed.createComponent(DeliveriesPage);
    fixture.componentRef.setInput('yardId', 1);
    page = new TestPage(fixture);
    await page.rest();
    await page.rest();
  };

  it('says what belongs there while nothing left', async () => {
    await open([]);
    expect(page.text).toContain('Nothing left this yard yet');
  });

  it('opens a delivery to its files and what was read back', async () => {
    await open([entry(1)]);
    await page.press('Post');
    await page.rest();
    expect(page.one('[data-testid=opened]').textContent).toContain('Post.glb');
    await page.press('Post');
    expect(page.has('[data-testid=opened]')).toBeFalse();
  });

  it('compares two that are ticked: what would break placed copies first', async () => {
    const document = postDocument();
    const held = (moved: typeof document) => inventoryOf(planDelivery(moved, PREFIX_TAGS));
    await open([
      entry(2, { inventory: held(applyEdit(document, pivotEdit('numeric', [0, 0.5, 0]))) }),
      entry(1, { inventory: held(document) }),
    ]);
    for (const box of page.all('li input')) (box as HTMLInputElement).click();
    await page.rest();
    expect(page.one('[data-testid=compared] .breaks').textContent).toMatch(/The pivot of “Post” moved by/);
  });

  it('shows the state that left beside today’s, looked at from one place', async () => {
    await open([entry(1)]);
    bench.jobs['draw'] = jasmine.createSpy().and.resolveTo(crateArt([0, 0, 0]).art);
    await page.press('Post');
    await page.rest();
    await page.press('See it beside today’s');
    for (let i = 0; i < 100 && page.text.includes('Fetching'); i++) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      await page.rest();
    }
    expect(bench.jobs['draw']).toHaveBeenCalledTimes(2);
    const captions = page.all('[data-testid=beside-today] figcaption').map((each) => each.textContent);
    expect(captions[0]).toMatch(/^Post as it left, /);
    expect(captions[1]).toBe('Post today');
    expect(page.all('[data-testid=beside-today] p').map((each) => each.textContent!.trim())).toEqual([
      '',
      '',
    ]);
    await page.press('Hide both states');
    expect(page.has('[data-testid=beside-today]')).toBeFalse();
  });

  it('says of a state that is not kept any more that it is gone', async () => {
    await open([entry(1)]);
    bench.api.left = [{ ...delivered(1, 1), version: 99 }];
    await page.press('Post');
    await page.rest();
    await page.press('See it beside today’s');
    for (let i = 0; i < 100 && page.text.includes('Fetching'); i++) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      await page.rest();
    }
    expect(page.text).toContain('This state is not kept any more.');
  });

  it('reads any files back as one of the targets would', async () => {
    await open([]);
    const bytes = await writeGlb({
      unit: { metres: 1, stated: true },
      nodes: [plainNode('Crate', 0)],
      meshes: [{ name: 'Crate', mesh: plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]) }],
      materials: [],
      pictures: [],
      leftOut: [],
      notes: [],
    });
    page.fixture.componentInstance['foreign'].set([
      new File([bytes as Uint8Array<ArrayBuffer>], 'crate.glb'),
    ]);
    await page.rest();
    bench.jobs['readBackFiles']!.and.callFake(readBackFiles);
    await page.choose('As which target', 'prefix tags');
    for (let i = 0; i < 60 && !page.has('yb-read-back-panel'); i++) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      await page.rest();
    }
    expect(page.one('[data-testid=foreign]').textContent).toContain('1 mesh, 0 shapes, 1 box made up');
  });
});

describe('the sheet of a delivery', () => {
  it('is a page that prints, with what names hold shown and not done', async () => {
    const bench = await testBench();
    bench.api.left = [
      {
        ...delivered(1, 1),
        files: [
          { name: 'Post.glb', type: '', bytes: 1 },
          { name: 'Post.import.md', type: '', bytes: 1 },
        ],
      },
    ];
    bench.api.texts = '# Post\n\n## Settings\n\n- Scale: **1**. Why <img src=x onerror="window.done=1">\n';
    const fixture = TestBed.createComponent(SheetPage);
    fixture.componentRef.setInput('id', 1);
    const page = new TestPage(fixture);
    for (let i = 0; i < 20 && !page.has('[data-testid=sheet]'); i++) await page.rest();
    const sheet = page.one('[data-testid=sheet]');
    expect([sheet.querySelector('h1')!.textContent, sheet.querySelector('strong')!.textContent]).toEqual([
      'Post',
      '1',
    ]);
    expect(sheet.innerHTML).not.toContain('onerror');
    const print = spyOn(window, 'print');
    await page.press('Print');
    expect(print).toHaveBeenCalledTimes(1);
  });
});
