import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import type { SetOutEntry } from '@yard-brace/contract';
import { FIRST_RULES } from '@yard-brace/core';
import { MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { of } from 'rxjs';
import { Api, ApiError } from '../../api/api';
import { Clock } from '../../state/clock';
import { ImportReports } from '../../state/import-report';
import { SetOutStore } from '../../state/set-out-store';
import { Ask } from '../../ui/ask';
import { Compute } from '../../workers/compute';
import { TestPage } from '../../testing/bench';
import { HandClock } from '../../testing/hand-clock';
import { shelfPiece } from '../../testing/post';
import { FakeSetOutApi, placed } from '../../testing/set-out';
import { SetOutPage } from './set-out-page';

const entry = (id: number, name: string): SetOutEntry => ({
  id,
  name,
  version: 1,
  savedAt: '2026-01-01T10:00:00.000Z',
  placements: 1,
});

describe('the page of set-outs', () => {
  let api: FakeSetOutApi & Record<string, unknown>;
  let list: SetOutEntry[];

  async function open(set?: number): Promise<TestPage<SetOutPage>> {
    localStorage.clear();
    api = Object.assign(new FakeSetOutApi([placed('p1', 1, [0, 0, 0])]), {
      setOuts: async () => list,
      yard: async () => ({
        id: 7,
        name: 'Yard',
        rules: FIRST_RULES,
        rulesVersion: 1,
        pieces: 1,
        changedAt: '2026-01-01T10:00:00.000Z',
        shelf: [shelfPiece(1, 'Post 1')],
      }),
      removeSetOut: jasmine.createSpy('removeSetOut').and.resolveTo(undefined),
    }) as never;
    const never = () => new Promise(() => undefined);
    TestBed.resetTestingModule().configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        providePrimeNG({}),
        provideRouter([]),
        MessageService,
        { provide: Api, useValue: api },
        { provide: Clock, useValue: new HandClock() },
        {
          provide: Compute,
          useValue: { run: never, runTrial: never, walk: never, task: null, task$: of(null), idle: never },
        },
      ],
    });
    const fixture = TestBed.createComponent(SetOutPage);
    fixture.componentRef.setInput('yardId', 7);
    if (set !== undefined) fixture.componentRef.setInput('set', set);
    const page = new TestPage(fixture);
    await page.rest();
    await page.rest();
    return page;
  }

  beforeEach(() => (list = []));
  afterEach(() => localStorage.clear());

  it('begins the first one where there is none', async () => {
    const page = await open();
    expect(page.text).toContain('A set-out is where pieces stand together');
    await page.press('Lay out the first set-out');
    expect((api['addSetOut'] as jasmine.Spy).calls.mostRecent().args).toEqual([
      7,
      jasmine.objectContaining({ name: 'Set-out 1', placements: [] }),
    ]);
    await page.rest();
    expect(page.text).toContain('Placed, 1');
  });

  it('folds the report of an import, which would lie over the plan', async () => {
    const fold = spyOn(ImportReports.prototype, 'fold');
    await open();
    expect(fold).toHaveBeenCalled();
  });

  it('opens the first of several, or the one of the address, and says of one that was removed', async () => {
    list = [entry(1, 'Slip'), entry(2, 'Quay')];
    expect((await open()).one<HTMLInputElement>('.name').value).toBe('Slip');
    const gone = await open(9);
    expect(gone.text).toContain('That set-out was removed');
  });

  it('stays with the copy that is kept of what another window was first to change, and lists it', async () => {
    list = [entry(1, 'Slip'), entry(2, 'Quay')];
    const page = await open(1);
    const asked = spyOn(api, 'setOut').and.callThrough();
    const store = page.fixture.debugElement.injector.get(SetOutStore);
    const address = TestBed.inject(Router).parseUrl(await store.keepMineAt());
    list = [...list, entry(9, 'Slip (copy)')];
    page.fixture.componentRef.setInput('set', address.queryParams['set']);
    await page.rest();
    await page.rest();
    expect(asked.calls.allArgs()).toEqual([[9]]);
    expect(page.one('[aria-label=Set-out]').textContent).toContain('Slip');
    expect(page.fixture.componentInstance['choices']().map(({ value }) => value)).toEqual([1, 2, 9]);
  });

  it('is renamed in place, and keeps its name when that is emptied', async () => {
    list = [entry(1, 'Slip')];
    const page = await open();
    const field = page.one<HTMLInputElement>('.name');
    field.value = 'West slip';
    field.dispatchEvent(new Event('change'));
    await page.rest();
    expect(field.value).toBe('West slip');
    field.value = '  ';
    field.dispatchEvent(new Event('change'));
    expect(field.value).toBe('West slip');
  });

  it('removes one only when asked twice, and turns to the next', async () => {
    list = [entry(1, 'Slip'), entry(2, 'Quay')];
    const page = await open();
    const ask = spyOn(TestBed.inject(Ask), 'ask').and.resolveTo(false);
    await page.press('Remove this set-out');
    expect(api['removeSetOut'] as jasmine.Spy).not.toHaveBeenCalled();
    ask.and.resolveTo(true);
    await page.press('Remove this set-out');
    expect((api['removeSetOut'] as jasmine.Spy).calls.mostRecent().args).toEqual([1]);
  });

  it('says in a sentence why it cannot be opened', async () => {
    list = [entry(1, 'Slip')];
    const page = await open();
    api.setOut = async () => {
      throw new ApiError('broken', '“Slip” cannot be opened as it was last saved.');
    };
    await (page.fixture.componentInstance as unknown as { show(id: number): Promise<void> }).show(1);
    await page.rest();
    expect(page.text).toContain('cannot be opened as it was last saved');
  });
});
