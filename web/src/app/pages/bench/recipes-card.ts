import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, type Recipe, RECIPE_VERSION, type RecipeStep } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { RecipeRuns } from '../../state/recipe-runs';
import { Check } from '../../ui/check';
import { StepReports } from '../../ui/step-reports';

/** Recipes of the yard on this piece, and a new one of what was done to it: in the place of the job card while it is open. */
@Component({
  selector: 'yb-recipes-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check, InputText, StepReports],
  template: `
    <div class="title">
      <h2>Recipes</h2>
      <button type="button" class="quiet-button" (click)="closed.emit()">Back to the job card</button>
    </div>
    <section>
      <h3>Try on this piece</h3>
      <ul data-testid="recipes-to-try">
        @for (recipe of recipes(); track recipe.name) {
          <li>
            <span class="grow"
              >{{ recipe.name }}
              <span class="faded"
                >{{ counted(recipe.steps.length, 'step')
                }}{{ recipe.key ? ' · Alt+' + recipe.key.toUpperCase() : '' }}</span
              ></span
            >
            <p-button
              label="Try"
              size="small"
              [outlined]="true"
              [disabled]="working()"
              [ariaLabel]="'Try ' + recipe.name"
              (onClick)="runs.tryOn(recipe)"
            />
          </li>
        } @empty {
          <li class="faded">The yard has no recipe yet. Make one below, or in Rules.</li>
        }
      </ul>
      @if (tried(); as tried) {
        <p [class.stop]="tried.stopped">
          <b>{{ tried.recipe.name }}</b>: {{ tried.says }}
        </p>
        <yb-step-reports [steps]="tried.steps" />
      }
    </section>
    <section>
      <h3>New recipe from what was done here</h3>
      @if (done().length) {
        <p class="faded">
          Tick what is to be done to other pieces; what means nothing there cannot be ticked.
        </p>
        <ol data-testid="history-steps">
          @for (each of done(); track $index; let i = $index) {
            <li>
              <yb-check
                [checked]="ticked().has(i)"
                [disabled]="!each.step"
                (changed)="tick(i, $event)"
                [title]="each.step ? '' : 'It was done to single faces, shapes or places of this piece.'"
                >{{ each.label }}</yb-check
              >
            </li>
          }
        </ol>
        <div class="row">
          <input
            #name
            pInputText
            pSize="small"
            maxlength="60"
            placeholder="Name of the recipe"
            aria-label="Name of the recipe"
            [value]="called()"
            (input)="called.set(name.value)"
          />
          <p-button
            [label]="'Keep ' + counted(chosen().length, 'step')"
            size="small"
            [disabled]="!chosen().length || !called().trim()"
            (onClick)="keep()"
          />
        </div>
      } @else {
        <p class="faded">Nothing was done to this piece yet that could be undone.</p>
      }
    </section>
  `,
  styleUrl: './card.css',
  styles: `
    h3 {
      font-size: 13px;
    }
    section {
      display: grid;
      gap: 8px;
      padding: 12px 14px;
      border-bottom: 1px solid var(--rule);
    }
    li,
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    ul li {
      min-height: 32px;
      border-bottom: 1px dotted var(--rule);
    }
    ol {
      display: grid;
      gap: 2px;
    }
    .grow,
    .row input {
      flex: 1;
      min-width: 0;
    }
    .stop {
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
    }
  `,
})
export class RecipesCard {
  protected readonly runs = inject(RecipeRuns);
  readonly closed = output();
  protected readonly recipes = toSignal(this.runs.recipes$, { initialValue: [] });
  protected readonly working = toSignal(this.runs.working$, { requireSync: true });
  protected readonly tried = toSignal(this.runs.last$, { requireSync: true });
  protected readonly done = toSignal(this.runs.done$, { initialValue: [] });
  protected readonly counted = counted;
  protected readonly called = signal('');
  /** numbers of the steps that belong to it; all that can, at first */
  protected readonly ticked = linkedSignal<ReadonlySet<number>>(
    () => new Set(this.done().flatMap(({ step }, i) => (step ? [i] : []))),
  );
  protected readonly chosen = computed(() =>
    this.done().flatMap(({ step }, i): RecipeStep[] => (step && this.ticked().has(i) ? [step] : [])),
  );

  protected tick(i: number, on: boolean): void {
    const next = new Set(this.ticked());
    if (on) next.add(i);
    else next.delete(i);
    this.ticked.set(next);
  }

  protected async keep(): Promise<void> {
    const recipe: Recipe = { format: RECIPE_VERSION, name: this.called().trim(), steps: this.chosen() };
    await this.runs.add(recipe);
    if (this.recipes().some(({ name }) => name === recipe.name)) this.called.set('');
  }
}
