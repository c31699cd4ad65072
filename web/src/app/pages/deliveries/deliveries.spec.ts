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
import { delivered, postDocument } from '../../testing/post';
import { DeliveriesPage } from './deliveries-page';
import { bookDays, verdictText, WHOLE_BOOK } from './dispatch-book';

const entry = (id: number, change: Partial<DeliveryEntry> = {}): DeliveryEntry => ({
  id,
  piece: { id: 1, name: 'Post' },
  version: id,
  target: 'prefix-tags',
  targetName: 'prefix tags',
  at: `2026-03-0${id}T10:00:00.000Z`,
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
    await page.choose('As which target', 'prefix tags');
    for (let i = 0; i < 60 && !page.has('yb-read-back-panel'); i++) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      await page.rest();
    }
    expect(page.one('[data-testid=foreign]').textContent).toContain('1 mesh, 0 shapes, 1 box made up');
  });
});
