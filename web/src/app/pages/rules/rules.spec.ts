import { TestBed } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { areaText, FIRST_RULES, lengthText, volumeText, type YardRules } from '@yard-brace/core';
import { testProfile } from '../../workers/jobs/test-profile';
import { showYardIn } from '../../state/shown-unit';
import { type RulesDraft as Draft, withValue } from '../../state/rules-draft';
import { type TestBench, testBench, TestPage } from '../../testing/bench';
import { RecipesSection } from './recipes-section';
import { RulesPage } from './rules-page';

describe('a value in the rules', () => {
  it('is changed in its place, and all beside it stays the same object', () => {
    const whole = { a: { b: [1, { c: 2 }] }, d: { e: 3 } };
    const next = withValue(whole, ['a', 'b', 1, 'c'], 5) as typeof whole;
    expect(next).toEqual({ a: { b: [1, { c: 5 }] }, d: { e: 3 } });
    expect(next.d).toBe(whole.d);
    expect(withValue(whole, ['a', 'b', 1, 'c'], undefined)).toEqual({ a: { b: [1, {}] }, d: { e: 3 } });
    expect(Object.keys(withValue({ x: 1, y: 2 }, ['x'], 9) as object)).toEqual(['x', 'y']);
  });
});

describe('the rules page', () => {
  let bench: TestBench;
  let page: TestPage<RulesPage>;
  const rules = () => bench.api.ruled.rules;
  beforeEach(async () => {
    bench = await testBench();
    const fixture = TestBed.createComponent(RulesPage);
    fixture.componentRef.setInput('yardId', 1);
    page = new TestPage(fixture);
    await page.rest();
    await page.rest();
  });
  afterEach(() => showYardIn('m'));
  const section = (title: string) => page.press(title);
  const write = async (label: string, value: string, nth = 0) => {
    const field = page.all(`input[aria-label="${label}"], textarea[aria-label="${label}"]`)[
      nth
    ] as HTMLInputElement;
    field.value = value;
    field.dispatchEvent(new Event('change'));
    await page.rest();
  };
  const save = () => page.press('Save rules');
  const mayBeSaved = () => !page.one<HTMLButtonElement>('[data-testid=save-rules] button').disabled;

  it('saves what is changed, and what was saved last is had back', async () => {
    expect([page.text.includes('Version 1, saved'), mayBeSaved()]).toEqual([true, false]);
    await page.type('Grid step', '2');
    expect(page.text).toContain('Changed, not saved');
    await save();
    expect([rules().gridMetres, page.text.includes('Version 2, saved')]).toEqual([2, true]);
    await page.press('Undo last save');
    expect(rules()).toEqual(FIRST_RULES);
  });

  it('says what is wrong at the field and in its section, and saves nothing meanwhile', async () => {
    await section('Names');
    await write('Names of a mesh', '{subject}{variant}');
    expect(page.one('.wrong[role=alert]').textContent).toContain(
      'Nothing stands between {subject} and {variant}',
    );
    expect(page.all('.wrong-mark').length).toBe(1);
    expect(mayBeSaved()).toBeFalse();
    await write('Names of a mesh', 'SM_{subject:pascal}_{variant:2}');
    expect(page.text).toContain('SM_SluiceGate_02');
    await save();
    expect(rules().names).toEqual({ mesh: 'SM_{subject:pascal}_{variant:2}' });
  });

  it('writes recipes: steps from a list, their parameters by forms, and what is wrong with them at the field', async () => {
    await section('Recipes');
    await page.press('Add a recipe');
    expect(page.text).toContain('A recipe has one step at least.');
    const recipes = page.fixture.debugElement.query(By.directive(RecipesSection))
      .componentInstance as RecipesSection;
    // The list of steps is long: only what is seen of it is there to be clicked.
    for (const op of ['weld', 'ladder']) recipes['addStep'](op);
    await page.rest();
    await write('Name', 'Solids');
    // What is not given stands there as it usually is.
    expect(page.one<HTMLInputElement>('input[aria-label="Within the budget"]').checked).toBeTrue();
    await write('Shapes', '99');
    expect(page.all('.wrong[role=alert]').length).toBe(1);
    expect(mayBeSaved()).toBeFalse();
    await write('Shapes', '12');
    await page.choose('Agent', 'nobody (full detail)');
    await page.choose('Which parts', 'Parts that are like this');
    await write('Name', 'leaf*', 1);
    await page.choose('Where it does not apply', 'Skip the step');
    await save();
    expect(rules().recipes).toEqual([
      {
        format: 1,
        name: 'Solids',
        steps: [
          {
            op: 'weld',
            parameters: { metres: 0.0002 },
            parts: { by: 'where', name: 'leaf*' },
            otherwise: 'skip',
          },
          { op: 'ladder', parameters: { shapes: 12, agent: null } },
        ],
      },
    ]);
  });

  it('copies, adds and removes agents, but for one that is in use', async () => {
    await section('Agents');
    await page.press('Copy');
    await save();
    expect(rules().agents.map(({ name }) => name)).toEqual([
      'gantry rig',
      'deckhand',
      'gull',
      'gantry rig 2',
    ]);
    bench.api.ruled = { ...bench.api.ruled, rules: { ...rules(), agent: 'gantry-rig' } };
    const draft = page.fixture.componentInstance['rules'] as Draft;
    await draft.load(1);
    await page.rest();
    await page.press('Remove');
    expect(bench.said()).toContain('choose another one first');
    expect((draft.draft() as YardRules).agents.length).toBe(4);
  });

  it('names what slots of material are called in a target, each once', async () => {
    await section('Materials');
    expect(page.text).toContain('Slots leave under the names that they have in the piece.');
    await page.press('Add a name');
    await write('Slot', 'oak');
    await write('Its own name', 'M_Oak_Inst');
    expect([page.text.includes('oak → M_Oak_Inst'), mayBeSaved()]).toEqual([true, true]);
    await page.press('Add a name');
    await write('Slot', 'oak', 1);
    expect(page.one('.wrong[role=alert]').textContent).toContain('“oak” has a name in that target already.');
    expect(mayBeSaved()).toBeFalse();
    await write('Only on the part', 'Leaf', 1);
    expect(page.text).toContain('oak of Leaf → material');
    expect(mayBeSaved()).toBeTrue();
    await write('Slot', 'tar', 1);
    await write('Only on the part', '', 1);
    await save();
    const { targets } = rules();
    expect(rules().materialNames).toEqual([
      { slot: 'oak', target: targets[0]!, own: 'M_Oak_Inst' },
      { slot: 'tar', target: targets[0]!, own: 'material', part: '' },
    ]);
  });

  it('makes a profile of its own from one that ships, shows what it does, and tries it', async () => {
    await section('Targets and profiles');
    page
      .all('[data-testid=profiles] li')[1]!
      .querySelectorAll<HTMLButtonElement>('button.quiet-button')[0]!
      .click();
    await page.rest();
    await write('Token of a hull', '-solid');
    await page.type('Digits', '3');
    expect(page.one('[data-testid=sample-names]').textContent).toContain('frame_001-solid');
    // The job itself, on the page.
    bench.jobs['testProfile']!.and.callFake(testProfile);
    await page.press('Test delivery');
    for (let i = 0; i < 100 && !page.has('[data-testid=tested]'); i++) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      await page.rest();
    }
    expect(page.one('[data-testid=tested]').textContent).toMatch(
      /GLB, glTF, COLLADA, OBJ and read back: \d+ points agree/,
    );
    await write('Separator', '');
    expect(page.text).toContain('Without a separator a number cannot be told from the name before it.');
    expect(mayBeSaved()).toBeFalse();
    await write('Separator', '.');
    await save();
    expect(rules().profiles.map(({ id, name }) => [id, name])).toEqual([['suffix-tags-2', 'suffix tags 2']]);
  });

  it('lets a preset of deliveries go', async () => {
    const presets = [
      { name: 'text', target: 'prefix-tags', choices: {} },
      { name: 'parts', target: 'prefix-tags', choices: { files: 'part' as const } },
    ];
    bench.api.ruled = { version: 1, rules: { ...FIRST_RULES, presets }, canUndo: false };
    page.fixture.componentRef.setInput('yardId', 2);
    await page.rest();
    await page.rest();
    await section('Targets and profiles');
    page.one('[aria-label="Remove the preset text"]').click();
    await page.rest();
    await save();
    expect(rules().presets.map(({ name }) => name)).toEqual(['parts']);
  });

  it('says which pieces a change touches, and how their stamps move', async () => {
    const before = {
      intake: 'clear',
      parts: 'clear',
      size: 'clear',
      pivot: 'clear',
      proxies: 'clear',
      names: 'clear',
      delivery: 'none',
    } as never;
    bench.api.effect = [
      { id: 1, name: 'Post', before, after: { ...(before as object), proxies: 'look' } as never },
    ];
    await section('Budgets');
    await page.press('Remove');
    await new Promise((resolve) => setTimeout(resolve, 600));
    await page.rest();
    expect(page.text).toContain('Stamps of 1 piece move:');
    expect(page.one('[data-testid=effect]').textContent).toMatch(/Post *proxies: clear → look here/);
  });

  it('that somebody else saved meanwhile are not written over, and nothing of one’s own is lost', async () => {
    await page.type('Grid step', '2');
    bench.api.ruled = { version: 5, rules: { ...FIRST_RULES, gridMetres: 8 }, canUndo: true };
    await save();
    expect(rules().gridMetres).toBe(8);
    expect(bench.said()).toContain('saved somewhere else');
    await save();
    expect([rules().gridMetres, bench.api.ruled.version]).toEqual([2, 6]);
  });

  it('decide in which unit lengths are shown', () => {
    showYardIn('cm');
    expect([lengthText(0.0123), lengthText(2.5)]).toEqual(['1.23 cm', '250.00 cm']);
    showYardIn('in');
    expect([lengthText(0.0254), areaText(0.0254 ** 2), volumeText(8 * 0.0254 ** 3)]).toEqual([
      '1.000 in',
      '1.00 in²',
      '8.00 in³',
    ]);
    showYardIn('m');
    expect([lengthText(0.0123), lengthText(2.5)]).toEqual(['12.3 mm', '2.50 m']);
  });
});
