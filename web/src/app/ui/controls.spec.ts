import { DestroyRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { Extra } from '@yard-brace/core';
import { testBench, TestPage } from '../testing/bench';
import { Ask } from './ask';
import { AskDialog } from './ask-dialog';
import { Check } from './check';
import { Choice } from './choice';
import { Disclosure } from './disclosure';
import { FactTable } from './fact-table';
import { Header } from './header';
import { KeyList } from './key-list';
import { Keymap } from './keymap';
import { NoticeList } from './notice-list';
import { Notices } from '../state/notices';
import { ImportReports, importEntry } from '../state/import-report';
import { ImportReportPanel } from './import-report-panel';
import { YardsPage } from '../pages/yards/yards-page';
import { NewArtDesk } from '../state/new-art-desk';
import { SameName } from './same-name';
import { Importer } from '../state/importer';
import { ShelfStore } from '../state/shelf-store';
import { Segments } from './segments';

const later = () => new Promise((resolve) => setTimeout(resolve));

describe('controls', () => {
  beforeEach(() => testBench());
  const show = async <T>(type: new () => T, inputs: Record<string, unknown> = {}) => {
    const fixture = TestBed.createComponent(type);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    const page = new TestPage(fixture);
    await page.rest();
    return page;
  };

  it('a check box that was refused shows what is', async () => {
    const page = await show(Check, { checked: false, label: 'locked' });
    const told: boolean[] = [];
    page.fixture.componentInstance.changed.subscribe((value) => told.push(value));
    const box = () => page.one<HTMLInputElement>('input');
    expect(box().getAttribute('aria-label')).toBe('locked');
    box().click();
    await later();
    await page.rest();
    // Nobody took it: the box is unticked again.
    expect([told, box().checked]).toEqual([[true], false]);
    page.fixture.componentRef.setInput('checked', true);
    await page.rest();
    await later();
    await page.rest();
    expect(box().checked).toBeTrue();
  });

  it('a disclosure says whether it is open, and what it opens', async () => {
    const page = await show(Disclosure, { label: 'Two faces cross.', more: 'why' });
    const button = page.one<HTMLButtonElement>('button');
    expect(button.textContent!.replace(/\s+/g, ' ').trim()).toBe('Two faces cross. why');
    const said = () => ['aria-expanded', 'aria-controls'].map((name) => button.getAttribute(name));
    expect(said()).toEqual(['false', null]);
    button.click();
    await page.rest();
    const [expanded, opened] = said();
    expect(expanded).toBe('true');
    expect(page.one(`#${opened}`)).toBeTruthy();
    button.click();
    await page.rest();
    expect(said()).toEqual(['false', null]);
  });

  it('a choice that was refused shows what is, and choosing the same again says nothing', async () => {
    const options = [
      { label: 'metres', value: 'm' },
      { label: 'feet', value: 'ft' },
    ];
    const page = await show(Choice, { options, value: 'm', label: 'Unit' });
    const told: unknown[] = [];
    page.fixture.componentInstance.chosen.subscribe((value) => told.push(value));
    await page.choose('Unit', 'feet');
    await later();
    await page.rest();
    expect([told, page.one('[role=combobox]').textContent!.trim()]).toEqual([['ft'], 'metres']);
    await page.choose('Unit', 'metres');
    expect(told).toEqual(['ft']);
  });

  it('long lists can be searched', async () => {
    const options = Array.from({ length: 30 }, (_, i) => ({ label: `part ${i}`, value: i }));
    const page = await show(Choice, { options, value: 0, label: 'Part' });
    page.one('[role=combobox]').click();
    await page.rest();
    expect(document.querySelector('input[aria-label="Search Part"]')).not.toBeNull();
  });

  it('segments tell the one that is taken, and let go of it only where that is allowed', async () => {
    const options = [
      { label: 'Face', value: 'face' },
      { label: 'Shell', value: 'shell' },
    ];
    const page = await show(Segments, { options, value: 'face', label: 'Choose by' });
    const told: unknown[] = [];
    page.fixture.componentInstance.chosen.subscribe((value) => told.push(value));
    expect(page.one('[role=group]').getAttribute('aria-label')).toBe('Choose by');
    expect(page.all('[aria-pressed=true]').map((each) => each.textContent!.trim())).toEqual(['Face']);
    await page.press('Shell');
    await later();
    expect(told).toEqual(['shell']);
    page.fixture.componentRef.setInput('allowEmpty', true);
    await page.rest();
    await page.press('Face');
    await later();
    expect(told.at(-1)).toBeNull();
  });

  it('facts have a row each, headings when they are compared', async () => {
    const facts = [
      { name: 'Shapes', now: '3', text: '1', good: true },
      { name: 'Excess', now: '—', text: '4.0 mm', bad: true },
    ];
    const page = await show(FactTable, { facts, heads: ['', 'now', 'next'] });
    expect(page.all('tbody tr').map((row) => [...row.children].map((cell) => cell.textContent))).toEqual([
      ['Shapes', '3', '1'],
      ['Excess', '—', '4.0 mm'],
    ]);
    expect(page.all('th').length).toBe(3);
    expect(page.one('[data-row=Excess]').classList).toContain('bad');
  });

  it('a question waits for its answer; another one answers it with no', async () => {
    const ask = TestBed.inject(Ask);
    const page = await show(AskDialog);
    const question = { title: 'Remove it?', text: 'For good.', accept: 'Remove', reject: 'Keep' };
    const first = ask.ask(question);
    const second = ask.ask({ ...question, title: 'Remove both?' });
    expect(await first).toBeFalse();
    await page.rest();
    await later();
    const dialog = document.querySelector<HTMLElement>('[role=alertdialog]')!;
    expect(dialog.textContent).toContain('Remove both?');
    const button = [...dialog.querySelectorAll('button')].find((each) =>
      each.textContent!.includes('Remove'),
    );
    button!.click();
    expect(await second).toBeTrue();
    await page.rest();
    await later();
    // Escape turns away from it, and no key does anything behind it.
    let pressed = 0;
    const bound = { keys: ['X'], help: '', act: () => pressed++ };
    TestBed.inject(Keymap).bind([bound], TestBed.inject(DestroyRef));
    const press = (key: string, code = key) =>
      document.dispatchEvent(new KeyboardEvent('keydown', { key, code, bubbles: true }));
    const third = ask.ask(question);
    await page.rest();
    await later();
    press('x');
    expect(pressed).toBe(0);
    press('Escape');
    expect(await third).toBeFalse();
  });

  it('the list of keys names every key once, and comes and goes by its own key', async () => {
    const page = await show(KeyList);
    const press = async (key: string) => {
      document.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      await page.rest();
      await later();
    };
    await press('?');
    const list = () => document.querySelector<HTMLElement>('.p-dialog dl');
    expect(list()!.textContent).toContain('show or hide this list');
    await press('Escape');
    await page.rest();
    expect(list()).toBeNull();
  });

  it('notices stay until they are dismissed, bad ones marked', async () => {
    const notices = TestBed.inject(Notices);
    const page = await show(NoticeList);
    notices.say('Delivered.');
    notices.say('The disk is full.', true);
    await page.rest();
    await later();
    await page.rest();
    const texts = () => page.all('.notice').map((each) => each.textContent);
    expect(texts()).toEqual(['Delivered.', 'The disk is full.']);
    expect(page.all('.notice.bad').length).toBe(1);
    notices.say('Delivered.');
    expect(notices.notices.length).toBe(2);
    notices.dismiss(notices.notices[0]!.id);
    expect(notices.notices.map(({ text }) => text)).toEqual(['Delivered.']);
  });

  it('what went well is the last three words on the place where one is; what went wrong stays', async () => {
    const notices = TestBed.inject(Notices);
    const page = await show(NoticeList);
    const texts = () => notices.notices.map(({ text }) => text);
    for (const text of ['Moved.', 'Turned.', 'Mirrored.']) notices.say(text);
    notices.say('The disk is full.', true);
    notices.say('Baked.');
    expect(texts()).toEqual(['Turned.', 'Mirrored.', 'The disk is full.', 'Baked.']);
    await page.rest();
    expect(page.all('.notice').map((each) => each.textContent)).toEqual(texts());
    const router = TestBed.inject(Router);
    router.resetConfig([{ path: '**', children: [] }]);
    await router.navigate([], { queryParams: { sheet: 2 } });
    expect(texts().length).toBe(4);
    await router.navigateByUrl('/yards/7');
    expect(texts()).toEqual(['The disk is full.']);
    await page.rest();
    expect(page.all('.notice').map((each) => each.textContent)).toEqual(texts());
  });
});

describe('the report of an import', () => {
  beforeEach(() => testBench());

  it('is a line on the list of yards, and lies over nothing there', async () => {
    const reports = TestBed.inject(ImportReports);
    reports.begin([importEntry('a.obj', 'read'), importEntry('b.obj', 'read')]);
    const page = new TestPage(TestBed.createComponent(ImportReportPanel));
    await page.rest();
    expect(page.has('section')).toBeTrue();
    const yards = new TestPage(TestBed.createComponent(YardsPage));
    await yards.rest();
    await page.rest();
    expect(page.has('section')).toBeFalse();
    expect(yards.one('[data-testid=import-line]').textContent).toContain('2 of 2 files imported');
  });

  it('says what became of every file, what needs a look first, and can be opened again', async () => {
    const reports = TestBed.inject(ImportReports);
    const page = new TestPage(TestBed.createComponent(ImportReportPanel));
    const [good, bad] = [importEntry('a.obj', 'waiting'), importEntry('b.obj', 'waiting')];
    reports.begin([good, bad, importEntry('c.fbx', 'ignored', 'c.fbx: closed format')]);
    await page.rest();
    expect(page.one('[role=status]').textContent).toBe('Importing: 0 of 3 files imported, 1 ignored');
    reports.put(good, { state: 'read', piece: 7 });
    reports.put(bad, { state: 'refused', why: 'b.obj: the file is empty; export it again.' });
    reports.end();
    await page.rest();
    expect(page.one('[role=status]').textContent).toBe('1 of 3 files imported, 1 refused, 1 ignored');
    expect(page.all('li').map((item) => item.dataset['state'])).toEqual(['refused', 'ignored', 'read']);
    // The name stands once, whether the reason has it or not.
    expect(page.one('[role=alert]').textContent!.trim()).toBe('b.obj: the file is empty; export it again.');
    expect(page.one<HTMLAnchorElement>('li a').getAttribute('href')).toBe('/pieces/7');
    await page.press('Dismiss');
    expect(page.has('section')).toBeFalse();
    reports.show();
    await page.rest();
    expect(page.has('section')).toBeTrue();
    // What a file holds beside its art is ticked off, one by one; of several pieces one is taken.
    const extra = (id: string, kind: Extra['kind']): Extra => ({
      id,
      kind,
      name: id,
      triangles: kind === 'shape' ? null : 12,
    });
    const extras = [extra('piece 0', 'piece'), extra('piece 1', 'piece'), extra('shape a', 'shape')];
    let left: ReadonlySet<string> | undefined;
    void reports.choice(good, extras).then((ids) => (left = ids));
    await page.rest();
    await page.tick('piece 0');
    await page.tick('shape a');
    await page.tick('piece 1');
    expect(page.button('Import what is ticked').disabled).toBeTrue();
    await page.tick('piece 1');
    await page.press('Import what is ticked');
    expect([...left!]).toEqual(['piece 0', 'shape a']);
    expect(page.has('yb-extras-choice')).toBeFalse();
    const header = new TestPage(TestBed.createComponent(Header));
    await header.rest();
    expect(header.has('[data-testid=import-line]')).toBeFalse();
    await page.press('Fold');
    await header.rest();
    expect(page.has('section')).toBeFalse();
    await header.press('0 of 3 files imported, 1 refused, 1 ignored');
    await page.rest();
    expect([page.has('section'), header.has('[data-testid=import-line]')]).toEqual([true, false]);
  });
});

describe('a file of a name that came before', () => {
  it('is compared, imported as a piece of its own, or neither, as the person says', async () => {
    const bench = await testBench();
    await bench.get(ShelfStore).load(1);
    const desk = TestBed.inject(NewArtDesk);
    const imported = spyOn(TestBed.inject(Importer), 'import').and.resolveTo([]);
    const page = new TestPage(TestBed.createComponent(SameName));
    const arrive = async () => {
      desk.ask({ pieces: [{ id: 1, name: 'Post' }], file: new File(['x'], 'post.obj'), beside: [] });
      await page.rest();
    };
    await arrive();
    expect(page.text).toContain('post.obj was imported before, for Post.');
    await page.press('Compare it with Post');
    expect([desk.take(2), desk.take(1)?.file.name, desk.take(1)]).toEqual([null, 'post.obj', null]);
    await arrive();
    await page.press('Import as a new piece');
    expect(imported.calls.mostRecent().args[2]).toEqual({ asNew: true });
    await arrive();
    await page.press('Neither');
    expect(page.has('[data-testid=same-name]')).toBeFalse();
    expect([imported.calls.count(), desk.take(1)]).toEqual([1, null]);
    // A file that was split into pieces waits until it was compared with each, or is dismissed.
    const pieces = [1, 2].map((id) => ({ id, name: `Post ${id}` }));
    desk.ask({ pieces, file: new File(['x'], 'posts.obj'), beside: [] });
    await page.rest();
    expect(page.text).toContain('posts.obj was imported before, for Post 1, Post 2.');
    await page.press('Compare it with Post 2');
    expect([desk.take(2)?.file.name, page.text.includes('for Post 1.')]).toEqual(['posts.obj', true]);
    await page.press('Compare it with Post 1');
    expect([desk.take(1)?.file.name, page.has('[data-testid=same-name]')]).toEqual(['posts.obj', false]);
  });
});
