import { type Edit, FIRST_RULES, type Recipe, recipeEdit, type StepReport } from '@yard-brace/core';
import { RecipeRuns } from '../../state/recipe-runs';
import { type TestBench, testBench } from '../../testing/bench';
import { postDocument, postPiece } from '../../testing/post';
import { RecipeKeys } from './recipe-keys';
import { RecipesCard } from './recipes-card';
import { TestBed } from '@angular/core/testing';
import { Keymap } from '../../ui/keymap';

const recipe = (name: string, more: Partial<Recipe> = {}): Recipe => ({
  format: 1,
  name,
  steps: [{ op: 'unit', parameters: { unit: 'cm' } }],
  ...more,
});
const FIGURES = { size: [2, 1, 1], parts: 1, triangles: 4, shapes: 0, excess: null, uncovered: null };
const step = (outcome: StepReport['outcome'], says: string): StepReport => ({
  op: 'unit',
  label: 'Set the unit',
  outcome,
  says,
});
const tried = (edit: Edit | null, more: object = {}) => ({
  document: postDocument(2),
  measured: null,
  leaving: [],
  steps: [step('done', 'Its unit is cm.')],
  stopped: null,
  before: FIGURES,
  after: { ...FIGURES, size: [0.02, 0.01, 0.01], shapes: 2, excess: 0.01, uncovered: 0.002 },
  edit,
  ...more,
});

describe('recipes on the bench', () => {
  let bench: TestBench;
  beforeEach(async () => {
    const piece = postPiece(postDocument(2));
    const recipes = [recipe('Centimetres', { key: 'q' })];
    piece.yard.rules = { ...FIRST_RULES, recipes };
    bench = await testBench(piece);
    bench.api.ruled = { version: 1, rules: piece.yard.rules, canUndo: false };
  });

  it('are tried as a proposal with figures and what became of each step, and kept as one undo step', async () => {
    const edit = recipeEdit('Centimetres', [
      { kind: 'set-unit', unit: 'cm' },
      { kind: 'set-agent', agent: 'gull' },
    ]);
    const measured = {
      key: 'a'.repeat(64),
      artOutside: 0.002,
      proxyOutside: 0.01,
      trials: { walks: [], bodies: [], felt: [] },
    };
    bench.jobs['runRecipe']!.and.resolveTo(tried(edit, { measured }));
    const page = await bench.show(RecipesCard);
    expect(page.one('[data-testid=recipes-to-try]').textContent).toContain('1 step · Alt+Q');
    await page.press('Try');
    expect(bench.proposals.proposal?.title).toBe(
      'Centimetres: 2.00 × 1.00 × 1.00 m to 20.0 × 10.0 × 10.0 mm, 1 part, 4 triangles, 0 shapes to 2 shapes, 10.0 mm off.',
    );
    const figures = bench.proposals.proposal?.figures.map(({ now, next }) => `${now} ${next}`);
    expect(figures).toContain('– 10.0 mm');
    expect(figures).toContain('2.00 × 1.00 × 1.00 m 20.0 × 10.0 × 10.0 mm');
    expect(page.one('[data-testid=step-reports]').textContent).toContain('Its unit is cm.');
    bench.proposals.keep();
    expect(bench.store.document.unit.name).toBe('cm');
    // What was walked on the way is kept with the piece.
    expect(bench.store.lastMeasured).toEqual(measured);
    bench.store.undo();
    expect(bench.store.document.unit.name).toBe('m');
  });

  it('say why they stopped, and propose nothing then', async () => {
    const stopped = 'Stopped at step 1, set the unit: No.';
    bench.jobs['runRecipe']!.and.resolveTo(tried(null, { stopped, steps: [step('stopped', 'No.')] }));
    const page = await bench.show(RecipesCard);
    await page.press('Try');
    expect(bench.proposals.proposal).toBeNull();
    expect(bench.said()).toBe(`Centimetres: ${stopped}`);
    expect(page.one('.stop').textContent).toContain(stopped);
  });

  it('propose nothing that was worked out on a piece that changed meanwhile', async () => {
    bench.jobs['runRecipe']!.and.callFake(async () => {
      bench.store.apply({ kind: 'set-agent', agent: 'gull' });
      return tried(recipeEdit('x', [{ kind: 'set-unit', unit: 'cm' }]));
    });
    const page = await bench.show(RecipesCard);
    await page.press('Try');
    expect([bench.proposals.proposal, bench.said()]).toEqual([
      null,
      'The piece was changed while the recipe ran; try it again.',
    ]);
  });

  it('are made of what was done to the piece, but for what means nothing elsewhere', async () => {
    bench.store.apply({ kind: 'set-unit', unit: 'ft' });
    bench.store.apply({ kind: 'rename-piece', name: 'Mine' });
    bench.store.apply({ kind: 'set-agent', agent: 'gull' });
    const page = await bench.show(RecipesCard);
    const boxes = page.all<HTMLInputElement>('[data-testid=history-steps] input');
    expect(boxes.map(({ checked, disabled }) => [checked, disabled])).toEqual([
      [true, false],
      [false, true],
      [true, false],
    ]);
    await page.tick('unit ft');
    await page.type('Name of the recipe', 'For gulls');
    await page.press('Keep 1 step');
    expect(bench.api.ruled.rules.recipes.at(-1)).toEqual(
      recipe('For gulls', { steps: [{ op: 'agent', parameters: { agent: 'gull' } }] }),
    );
    expect(page.one('[data-testid=recipes-to-try]').textContent).toContain('For gulls');
  });

  it('are tried by their keys as long as the bench is open', async () => {
    const { keymap, runs } = TestBed.runInInjectionContext(() => ({
      keymap: bench.get(Keymap),
      runs: bench.get(RecipeRuns),
    }));
    const asked = spyOn(runs, 'tryOn').and.resolveTo();
    TestBed.runInInjectionContext(() => new RecipeKeys());
    TestBed.tick();
    expect(keymap.list().map(({ help }) => help)).toContain('try the recipe “Centimetres”');
    const press = (code: string, key: string) =>
      document.dispatchEvent(
        new KeyboardEvent('keydown', { altKey: true, code, key, bubbles: true, cancelable: true }),
      );
    press('KeyW', 'w');
    expect(asked).not.toHaveBeenCalled();
    // Some keyboards make another sign of it.
    press('KeyQ', 'œ');
    expect(asked.calls.mostRecent().args[0].name).toBe('Centimetres');
  });
});
