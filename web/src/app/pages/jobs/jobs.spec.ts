import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { Job } from '@yard-brace/contract';
import { FIRST_RULES } from '@yard-brace/core';
import { JobsStore, QUIET_AGAIN_MS, RUNNING_AGAIN_MS } from '../../state/jobs-store';
import { ShelfStore } from '../../state/shelf-store';
import { type TestBench, testBench, TestPage } from '../../testing/bench';
import { jobReport, postPiece, shelfPiece } from '../../testing/post';
import { shown } from '../../testing/shown';
import { Ask } from '../../ui/ask';
import { JobsLine } from '../../ui/jobs-line';
import { RunRecipe } from '../shelf/run-recipe';
import { JobPage } from './job-page';

const RECIPE = { format: 1 as const, name: 'Boxes', steps: [{ op: 'join-borders', parameters: {} }] };

describe('jobs', () => {
  let bench: TestBench;
  let store: JobsStore;
  let went: jasmine.Spy;
  beforeEach(async () => {
    bench = await testBench(postPiece());
    store = bench.get(JobsStore);
    went = spyOn(bench.get(Router), 'navigate').and.resolveTo(true);
  });
  const show = async <T>(type: new () => T, inputs: Record<string, unknown>) => {
    const fixture = TestBed.createComponent(type);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    const page = new TestPage(fixture);
    await page.rest();
    await page.rest();
    return page;
  };
  const is = (change: Partial<Job>) => {
    bench.api.work = bench.api.work.map((each) => ({ ...each, job: { ...each.job, ...change } }));
  };

  it('are asked for often while one runs and seldom while none does; its end is told once', async () => {
    bench.api.work = [jobReport({ pieces: 4, waiting: 4 })];
    const asked = spyOn(bench.api, 'jobs').and.callThrough();
    const ends: number[] = [];
    store.moved$.subscribe(({ id }) => ends.push(id));
    store.watch(1);
    await bench.clock.move(0);
    await bench.clock.move(RUNNING_AGAIN_MS);
    expect(asked).toHaveBeenCalledTimes(2);
    is({ state: 'ended', done: 4, waiting: 0 });
    await bench.clock.move(RUNNING_AGAIN_MS);
    await bench.clock.move(RUNNING_AGAIN_MS * 3);
    expect([asked.calls.count(), ends]).toEqual([3, [1]]);
    await bench.clock.move(QUIET_AGAIN_MS);
    expect([asked.calls.count(), ends]).toEqual([4, [1]]);
  });

  it('that import tell of each piece that came, so that the shelf shows it', async () => {
    bench.api.work = [jobReport({ kind: 'import', pieces: 4, waiting: 4 })];
    const moves: number[] = [];
    store.moved$.subscribe(({ done }) => moves.push(done));
    store.watch(1);
    await bench.clock.move(0);
    for (const done of [1, 1, 3]) {
      is({ done });
      await bench.clock.move(RUNNING_AGAIN_MS);
    }
    expect(moves).toEqual([1, 3]);
  });

  it('are asked for at once when their report has moved on, so that the header does not lag behind it', async () => {
    bench.api.work = [jobReport({ pieces: 4, waiting: 4 })];
    store.watch(1);
    const page = await show(JobPage, { jobId: 1 });
    await bench.clock.move(RUNNING_AGAIN_MS);
    is({ done: 4, waiting: 0, state: 'ended' });
    // Its report is asked for a little after the jobs were.
    await bench.clock.move(RUNNING_AGAIN_MS / 4);
    await page.rest();
    expect(page.one('[data-testid=job-state]').textContent).toContain('4 of 4');
    expect(shown(store.jobs$)[0]!.state).toBe('ended');
  });

  it('stand in the header as one line with a count, and in a list with what can be done', async () => {
    bench.api.work = [
      jobReport({ id: 2, name: 'Later', pieces: 9 }),
      jobReport({ id: 1, pieces: 4, done: 1, failed: 1, share: 0.5 }),
    ];
    const page = await show(JobsLine, { yardId: 1 });
    expect(page.one('[data-testid=jobs-line]').textContent!.replace(/\s+/g, ' ')).toMatch(/Boxes ?2 of 4/);
    await page.press('Boxes');
    const list = document.querySelector('[data-testid=jobs]')!;
    expect(list.textContent).toContain('2 of 4 pieces, 1 failed');
    const button = (words: string) =>
      [...list.querySelectorAll('button')].find((each) => each.textContent!.includes(words))!;
    button('Do first').click();
    await page.rest();
    button('Stop').click();
    await page.rest();
    expect(bench.api.asked).toEqual([
      ['first', 2],
      ['stop', 2],
    ]);
    expect(button('Go on')).toBeDefined();
  });

  it('begin from the shelf with what they will touch said first, without pieces that cannot be opened', async () => {
    const yard = await bench.api.yard(1);
    bench.api.yard = async () => ({ ...yard, rules: { ...FIRST_RULES, recipes: [RECIPE] } });
    await bench.get(ShelfStore).load(1);
    const pieces = [
      shelfPiece(1, 'Post', { shapes: 3 }),
      shelfPiece(2, 'Torn', { broken: 'It is damaged.' }),
    ];
    const page = await show(RunRecipe, { pieces });
    await page.choose('Recipe', 'Boxes');
    expect(page.text).toContain('Join borders. They have 3 shapes now. Each can be taken back.');
    expect(page.text).toContain('Torn cannot be opened and is left out.');
    await page.press('Run on 1 piece');
    expect(bench.api.begun).toEqual([{ recipe: RECIPE, pieces: [1] }]);
    expect(went.calls.mostRecent().args[0]).toEqual(['/jobs', 1]);
  });

  it('are begun with one step of any kind that is filled in, and not while something of it is wrong', async () => {
    await bench.get(ShelfStore).load(1);
    const tried = spyOn(bench.api, 'tryRules').and.callThrough();
    const page = await show(RunRecipe, { pieces: [shelfPiece(1, 'Post'), shelfPiece(2, 'Buoy')] });
    expect(page.text).toContain('The yard has no recipe yet');
    await page.choose('Recipe', 'One step …');
    page.fixture.componentInstance['beginStep']('scale');
    await page.rest();
    await page.type('Factor', '-1');
    expect(page.all('p-button').length).toBe(0);
    await page.type('Factor', '2');
    await page.press('Run on 2 pieces');
    const scale = { format: 1, name: 'Scale the piece', steps: [{ op: 'scale', parameters: { factor: 2 } }] };
    expect(bench.api.begun).toEqual([{ recipe: scale, pieces: [1, 2] }] as never);
    expect(tried).not.toHaveBeenCalled();
  });

  it('say of a piece that waits what for, where it is not its turn alone', async () => {
    const says = 'The disk is full: 3 MB left. Make room there.';
    bench.api.work = [
      jobReport({ pieces: 2, waiting: 2 }, [
        { state: 'waiting', says },
        { state: 'waiting', says: '' },
      ]),
    ];
    const page = await show(JobPage, { jobId: 1 });
    const rows = page.all('[data-testid=job-items] > li').map((row) => row.textContent!.trim());
    expect(rows[0]).toContain(`waiting. ${says}`);
    expect(rows[1]).toMatch(/waiting$/);
  });

  it('that import show what came of each file, and no state before it', async () => {
    bench.jobs['picture']!.and.resolveTo(new Uint8Array());
    bench.api.work = [
      jobReport(
        {
          kind: 'import',
          state: 'ended',
          endedAt: '2026-01-01T10:05:00.000Z',
          pieces: 2,
          done: 1,
          failed: 1,
        },
        [
          {
            position: 5,
            state: 'failed',
            piece: { id: null, name: 'torn.obj', version: null },
            says: 'torn.obj, line 1: a vertex needs three numbers; export it again.',
          },
          { position: 0, piece: { id: 7, name: 'Post', version: 1 }, savedVersion: 1 },
        ],
      ),
    ];
    const page = await show(JobPage, { jobId: 1 });
    expect(page.one('[data-testid=job-state]').textContent).toContain('1 of 2 files imported, 1 refused.');
    const [torn, post] = page.all('[data-testid=job-items] > li');
    expect(torn!.textContent).toContain('torn.obj, line 1');
    expect(torn!.textContent).not.toContain('removed since');
    expect([torn!.querySelector('a'), post!.querySelector('a')?.textContent]).toEqual([null, 'Post']);
    expect([torn, post].map((row) => row!.querySelectorAll('yb-version-picture').length)).toEqual([0, 1]);
    await page.press('Try 1 refused file again');
    for (const label of ['Try torn.obj again', 'Take back Post']) {
      page.one<HTMLButtonElement>(`button[aria-label="${label}"]`).click();
      await page.rest();
    }
    expect(bench.api.asked).toEqual([
      ['again', 1, null],
      ['again', 1, [5]],
      ['back', 1, [0]],
    ]);
  });

  it('print every piece of their report, with the pictures drawn', async () => {
    bench.api.work = [
      jobReport({ state: 'ended', endedAt: '2026-01-01T10:05:00.000Z', pieces: 3, waiting: 0, done: 3 }, [
        { foundVersion: 1, savedVersion: 2 },
      ]),
    ];
    const [first] = bench.api.work[0]!.items;
    bench.api.further = [2, 3].map((id) => ({
      ...first!,
      position: id,
      piece: { id, name: `Post ${id}`, version: 2 },
    }));
    bench.jobs['picture']!.and.resolveTo(new Uint8Array());
    const page = await show(JobPage, { jobId: 1 });
    let printed = 0;
    spyOn(globalThis, 'print').and.callFake(() => {
      printed = page.all('[data-testid=job-items] > li').length;
    });
    await page.press('Print');
    for (let i = 0; i < 50 && !printed; i++) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(printed).toBe(3);
  });

  it('mark a piece that is under way as one of which nothing is known yet, not as one to look at', async () => {
    bench.api.work = [jobReport({ pieces: 2, running: 1, waiting: 1 }, [{ state: 'running', share: 0.4 }])];
    const page = await show(JobPage, { jobId: 1 });
    const row = page.one('[data-testid=job-items] > li');
    expect(row.textContent).toContain('under way, 40 %');
    expect(row.querySelector('yb-stamp svg')!.getAttribute('aria-label')).toBe('nothing yet');
  });

  it('report what became of each piece, and have it tried again or taken back', async () => {
    bench.api.work = [
      jobReport(
        { state: 'ended', endedAt: '2026-01-01T10:05:00.000Z', pieces: 3, waiting: 0, done: 2, failed: 1 },
        [
          {
            state: 'failed',
            says: 'Stopped at step 1, join borders: No.',
            steps: [{ op: 'x', label: 'Join borders', outcome: 'stopped', says: 'No.' }],
          },
          { foundVersion: 1, savedVersion: 2, deliveries: [{ id: 4, target: 'twin-file', agreed: false }] },
          { piece: { id: 9, name: 'Gone', version: null }, savedVersion: 2, foundVersion: 1 },
        ],
      ),
    ];
    const page = await show(JobPage, { jobId: 1 });
    expect(page.one('[data-testid=job-state]').textContent).toContain('2 of 3 pieces done, 1 failed');
    const rows = page.all('[data-testid=job-items] > li');
    expect(rows.map((row) => row.getAttribute('data-state'))).toEqual(['failed', 'done', 'done']);
    expect(rows[0]!.textContent).toContain('Stopped at step 1');
    expect(rows[1]!.textContent).toContain('delivered for twin file, differs');
    expect(rows[2]!.textContent).toContain('removed since');
    expect(rows[2]!.querySelector('button[aria-label^="Take back"]')).toBeNull();
    rows[0]!.querySelector<HTMLButtonElement>('button[aria-label="Try Post 1 again"]')!.click();
    await page.rest();
    is({ state: 'ended' });
    page.one<HTMLButtonElement>('button[aria-label="Take back Post 2"]').click();
    await page.rest();
    spyOn(bench.get(Ask), 'ask').and.resolveTo(true);
    await page.press('Take all back');
    expect(bench.api.asked).toEqual([
      ['again', 1, [0]],
      ['back', 1, [1]],
      ['back', 1, null],
    ]);
  });
});
