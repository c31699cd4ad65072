import { TestBed } from '@angular/core/testing';
import type { BinEntry } from '@yard-brace/contract';
import { Api } from '../api/api';
import { Told } from '../api/told';
import { type TestBench, testBench, TestPage } from '../testing/bench';
import { BinList } from './bin-list';

const entry = (id: number): BinEntry => ({ id, name: `Post ${id}`, removedAt: '2026-01-01T10:00:00.000Z' });

describe('the bin', () => {
  let bench: TestBench;
  let putBack: jasmine.Spy;
  let changes: number;
  beforeEach(async () => {
    bench = await testBench();
    putBack = jasmine.createSpy().and.resolveTo();
    (bench.get(Api) as unknown as Record<string, unknown>)['putPieceBack'] = putBack;
    changes = 0;
  });
  const show = async (...ids: number[]): Promise<TestPage<BinList>> => {
    const fixture = TestBed.createComponent(BinList);
    fixture.componentRef.setInput('entries', ids.map(entry));
    fixture.componentRef.setInput('of', 'pieces');
    fixture.componentInstance.changed.subscribe(() => changes++);
    const page = new TestPage(fixture);
    await page.rest();
    return page;
  };

  it('gives back one, and all at once where there are more', async () => {
    const alone = await show(7);
    expect(alone.text).not.toContain('Put all');
    await alone.press('Put back');
    expect([putBack.calls.allArgs(), bench.said(), changes]).toEqual([[[7]], 'Post 7 is back.', 1]);
    putBack.calls.reset();
    const page = await show(1, 2, 3);
    await page.press('Put all 3 back');
    expect([putBack.calls.allArgs(), bench.said(), changes]).toEqual([
      [[1], [2], [3]],
      '3 pieces are back.',
      2,
    ]);
  });

  it('tells of one that cannot come back, and gives the others; nothing is pressed twice meanwhile', async () => {
    const gone = 'There is no piece 2 any more, not even in the bin.';
    let answer!: () => void;
    putBack.and.callFake((id: number) =>
      id === 2 ? Promise.reject(new Told(gone)) : new Promise<void>((resolve) => (answer = resolve)),
    );
    const page = await show(1, 2, 3);
    await page.press('Put all 3 back');
    expect(page.all<HTMLButtonElement>('button').every(({ disabled }) => disabled)).toBeTrue();
    answer();
    await page.rest();
    answer();
    await page.rest();
    expect(bench.notices.notices.map(({ text }) => text)).toEqual([gone, '2 pieces are back.']);
    expect([putBack.calls.count(), changes]).toEqual([3, 1]);
  });
});
