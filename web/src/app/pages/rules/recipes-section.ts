import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  firstParameters,
  issueSentence,
  type Recipe,
  RECIPE_VERSION,
  recipeSchema,
  STEP_KINDS,
} from '@yard-brace/core';
import { Notices } from '../../state/notices';
import { RulesDraft } from '../../state/rules-draft';
import { Choice } from '../../ui/choice';
import { fileJson, saveText } from '../../ui/text-files';
import type { Field } from '../../ui/form-fields';
import { RuleFields } from '../../ui/rule-fields';
import { STEP_OPTIONS, StepForm } from '../../ui/step-form';

const FIELDS: Field[] = [
  { label: 'Name', path: ['name'], as: 'text' },
  {
    label: 'Key',
    path: ['key'],
    as: 'text',
    optional: true,
    note: 'a letter: with Alt it tries the recipe on the bench',
  },
];

/** The recipes of a yard: one after the other in a list, or one of them with its steps. */
@Component({
  selector: 'yb-recipes-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, RuleFields, StepForm],
  template: `
    @if (open() === null) {
      <p class="faded">
        Steps that are done to other pieces as they were done to one: tried on a piece on the bench, run over
        many from the shelf, and by the command line. They are made from what was done to a piece, or here.
      </p>
      <ul class="list" data-testid="recipes">
        @for (recipe of recipes(); track $index; let i = $index) {
          <li>
            <button type="button" class="name" (click)="open.set(i)">{{ recipe.name || 'no name' }}</button>
            <span class="faded grow">{{ stepsText(recipe) }}</span>
            <button type="button" class="quiet-button" (click)="copy(recipe)">Copy</button>
            <button type="button" class="quiet-button" (click)="save(recipe)">Save to a file</button>
            <button type="button" class="quiet-button" (click)="remove(i)">Remove</button>
          </li>
        } @empty {
          <li class="faded">No recipe yet.</li>
        }
      </ul>
      <input #file type="file" accept=".json" hidden (change)="load(file)" data-testid="recipe-file" />
      <div class="row">
        <button type="button" class="act" (click)="add()">Add a recipe</button>
        <button type="button" class="act" (click)="file.click()">Load a recipe</button>
      </div>
    } @else {
      <button type="button" class="quiet-button" (click)="open.set(null)">All recipes</button>
      <yb-rule-fields [place]="place()" [fields]="fields" />
      @if (issue(); as says) {
        <p class="wrong" role="alert">{{ says }}</p>
      }
      <div class="steps" data-testid="recipe-steps">
        @for (step of steps(); track $index; let i = $index) {
          <yb-step-form [place]="stepPlace(i)" [number]="i + 1" (up)="moveUp(i)" (removed)="removeStep(i)" />
        }
      </div>
      <yb-choice
        label="Add a step"
        placeholder="Add a step"
        [options]="kinds"
        (chosen)="addStep($event)"
        data-testid="add-step"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
      justify-items: start;
    }
    ul,
    .steps,
    yb-rule-fields {
      width: 100%;
    }
    li,
    .row {
      display: flex;
      align-items: center;
      gap: 10px;
    }
    li {
      min-height: 32px;
      border-bottom: 1px dotted var(--rule);
    }
    .name {
      min-height: 24px;
      padding: 0;
      border: 0;
      background: none;
      color: var(--tide);
      font: inherit;
      text-decoration: underline dotted;
      cursor: pointer;
    }
    .grow {
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .wrong {
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
      color: var(--vermilion);
    }
  `,
})
export class RecipesSection {
  private readonly rules = inject(RulesDraft);
  private readonly notices = inject(Notices);
  protected readonly fields = FIELDS;
  protected readonly kinds = STEP_OPTIONS;
  /** number of the recipe whose steps are shown */
  protected readonly open = signal<number | null>(null);
  protected readonly recipes = computed(() => (this.rules.at(['recipes']) ?? []) as Recipe[]);
  protected readonly place = computed(() => ['recipes', this.open() ?? 0]);
  protected readonly steps = computed(() => this.recipes()[this.open() ?? 0]?.steps ?? []);
  protected readonly issue = computed(() => this.rules.issueAt([...this.place(), 'steps']));

  protected stepsText({ steps, key }: Recipe): string {
    const labels = steps.map(({ op }) => STEP_KINDS[op]?.label ?? op).join(', ');
    return `${labels}${key ? ` · Alt+${key.toUpperCase()}` : ''}`;
  }

  protected stepPlace = (i: number) => [...this.place(), 'steps', i];

  protected add(): void {
    this.put([...this.recipes(), this.named({ format: RECIPE_VERSION, name: 'Recipe', steps: [] })]);
    this.open.set(this.recipes().length - 1);
  }

  protected copy({ key: _key, ...recipe }: Recipe): void {
    this.put([...this.recipes(), this.named(structuredClone(recipe))]);
  }

  protected save(recipe: Recipe): void {
    saveText(`${recipe.name}.recipe.json`, JSON.stringify(recipe, null, 2));
  }

  protected remove(at: number): void {
    this.put(this.recipes().filter((_, i) => i !== at));
  }

  protected async load(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    const read = recipeSchema.safeParse(await fileJson(file));
    if (read.success) this.put([...this.recipes(), this.named(read.data)]);
    else this.notices.say(`${file.name} is no recipe: ${issueSentence(read.error.issues[0]!)}`, true);
  }

  protected addStep(op: string): void {
    this.putSteps([
      ...this.steps(),
      { op, parameters: firstParameters(op) as Recipe['steps'][number]['parameters'] },
    ]);
  }

  protected removeStep(at: number): void {
    this.putSteps(this.steps().filter((_, i) => i !== at));
  }

  protected moveUp(at: number): void {
    const steps = [...this.steps()];
    [steps[at - 1], steps[at]] = [steps[at]!, steps[at - 1]!];
    this.putSteps(steps);
  }

  private put(recipes: Recipe[]): void {
    this.rules.set(['recipes'], recipes);
  }

  private putSteps(steps: Recipe['steps']): void {
    this.rules.set([...this.place(), 'steps'], steps);
  }

  /** Under a name that no other has. */
  private named(recipe: Recipe): Recipe {
    const taken = new Set(this.recipes().map(({ name }) => name.toLowerCase()));
    if (!taken.has(recipe.name.toLowerCase())) return recipe;
    for (let i = 2; ; i++) {
      const name = `${recipe.name.replace(/ \d+$/, '')} ${i}`;
      if (!taken.has(name.toLowerCase())) return { ...recipe, name };
    }
  }
}
