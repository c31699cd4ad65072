import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import type { PieceSummary } from '@yard-brace/contract';
import { counted, listText, type Recipe, STEP_KINDS } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { JobsStore } from '../../state/jobs-store';
import { OneStep, STEP_PLACE } from '../../state/one-step';
import { RulesDraft } from '../../state/rules-draft';
import { ShelfStore } from '../../state/shelf-store';
import { Choice, type Option } from '../../ui/choice';
import { STEP_OPTIONS, StepForm } from '../../ui/step-form';

/** No recipe has an empty name. */
const ONE_STEP = '';

/** A recipe for the chosen pieces, or one step of any kind: what it will touch is said before it begins, as a job on the server. */
@Component({
  selector: 'yb-run-recipe',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Choice, StepForm],
  providers: [OneStep, { provide: RulesDraft, useExisting: OneStep }],
  template: `
    <div class="row">
      <yb-choice
        label="Recipe"
        placeholder="Which recipe"
        [options]="options()"
        [value]="chosen()"
        (chosen)="chosen.set($event)"
      />
      @if (chosen() === oneStep) {
        <yb-choice
          label="Step"
          placeholder="Which step"
          [options]="kinds"
          [value]="op()"
          (chosen)="beginStep($event)"
        />
      }
      @if (recipe(); as recipe) {
        <span class="grow">{{ touches(recipe) }}</span>
        <p-button
          [label]="'Run on ' + counted(ready().length, 'piece')"
          size="small"
          [disabled]="working() || !ready().length"
          (onClick)="run(recipe)"
        />
      }
    </div>
    @if (chosen() === oneStep && op()) {
      <yb-step-form [place]="place" />
    }
    @if (options().length === 1) {
      <p class="faded">
        The yard has no recipe yet: make one on the bench from what was done to a piece, or write one in
        Rules.
      </p>
    }
    @if (broken().length) {
      <p class="faded">
        {{ names(broken()) }} cannot be opened and {{ broken().length === 1 ? 'is' : 'are' }} left out.
      </p>
    }
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
    }
    .grow {
      flex: 1;
      min-width: 200px;
    }
  `,
})
export class RunRecipe {
  private readonly shelf = inject(ShelfStore);
  private readonly jobs = inject(JobsStore);
  private readonly router = inject(Router);
  readonly pieces = input.required<readonly PieceSummary[]>();
  readonly done = output();
  private readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly chosen = signal<string | null>(null);
  protected readonly working = signal(false);
  protected readonly counted = counted;
  private readonly step = inject(OneStep);
  protected readonly oneStep = ONE_STEP;
  protected readonly place = STEP_PLACE;
  protected readonly kinds = STEP_OPTIONS;
  /** what the one step does; null while that is not chosen */
  protected readonly op = signal<string | null>(null);
  protected readonly options = computed((): Option<string>[] => [
    ...(this.yard()?.rules.recipes ?? []).map(({ name }) => ({ label: name, value: name })),
    { label: 'One step …', value: ONE_STEP },
  ]);
  protected readonly recipe = computed(() =>
    this.chosen() === ONE_STEP
      ? this.op() && this.step.recipe()
      : (this.yard()?.rules.recipes.find(({ name }) => name === this.chosen()) ?? null),
  );
  protected readonly ready = computed(() => this.pieces().filter(({ broken }) => broken === null));
  protected readonly broken = computed(() => this.pieces().filter(({ broken }) => broken !== null));

  protected names = (pieces: readonly PieceSummary[]) => listText(pieces.map(({ name }) => name));

  protected beginStep(op: string): void {
    this.step.begin(this.yard()!.rules, op);
    this.op.set(op);
  }

  /** What it will do, and to how much. */
  protected touches({ steps }: Recipe): string {
    const labels = steps.map(({ op }) => STEP_KINDS[op]?.label ?? op);
    const shapes = this.ready().reduce((sum, piece) => sum + piece.shapes, 0);
    const targets = steps.filter(({ op }) => op === 'deliver').length;
    return `${listText(labels, 6)}. They have ${counted(shapes, 'shape')} now${
      targets ? `, and leave for ${counted(targets, 'target')}` : ''
    }. Each can be taken back.`;
  }

  protected async run(recipe: Recipe): Promise<void> {
    this.working.set(true);
    const pieces = this.ready().map(({ id }) => id);
    const job = await this.jobs.begin(this.yard()!.id, recipe, pieces);
    this.working.set(false);
    if (!job) return;
    this.done.emit();
    await this.router.navigate(['/jobs', job.id]);
  }
}
