import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  countText,
  figuresText,
  type HistoryStep,
  lengthText,
  type PieceFigures,
  type ProxyFacts,
  type Recipe,
  sizeText,
  type StepReport,
  stepsOfHistory,
  type WantedDelivery,
} from '@yard-brace/core';
import { BehaviorSubject, map, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { BenchRules } from './bench-rules';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import { type Figure, Proposals } from './proposals';

/** What a recipe did to the piece on the bench, or would do while it is proposed. */
export interface TriedOnPiece {
  recipe: Recipe;
  steps: readonly StepReport[];
  /** why it came to nothing; null where it came to its end */
  stopped: string | null;
  says: string;
}

/** Recipes of the yard on the piece that is on the bench: tried as a proposal, and made of what was done to it. */
@Injectable()
export class RecipeRuns implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly rules = inject(BenchRules);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly tried$ = new BehaviorSubject<TriedOnPiece | null>(null);
  private readonly busy$ = new BehaviorSubject(false);
  readonly last$ = this.tried$.asObservable();
  readonly working$ = this.busy$.asObservable();
  readonly recipes$ = this.bench.piece$.pipe(map((piece) => piece?.yard.rules.recipes ?? []));
  /** what was done to the piece, the newest last, each with the step that it makes */
  readonly done$ = this.bench.document$.pipe(map((): HistoryStep[] => stepsOfHistory(this.bench.history)));
  private readonly kept: Subscription;
  private leaving: readonly WantedDelivery[] = [];
  private measured: ProxyFacts | null = null;

  constructor() {
    this.kept = this.proposals.kept$.subscribe(({ source }) => {
      // What was walked and measured on the way is kept with it, as when a job runs it.
      if (source === 'recipe' && this.measured)
        this.bench.measured(this.measured).catch((error: unknown) => this.notices.error(error));
      if (source === 'recipe' && this.leaving.length)
        this.notices.say('The piece is as the recipe leaves it; it is delivered in step 8, Delivery.');
    });
  }

  ngOnDestroy(): void {
    this.kept.unsubscribe();
  }

  /** Work a recipe out on the piece and show what it would make of it. */
  async tryOn(recipe: Recipe): Promise<void> {
    const { document, rules, lastMeasured } = this.bench;
    this.busy$.next(true);
    try {
      const run = await this.compute.runTrial(
        (jobs, progress) => jobs.runRecipe(document, rules, recipe, lastMeasured, progress),
        { first: recipe.name },
      );
      if (this.bench.document !== document) {
        this.notices.say('The piece was changed while the recipe ran; try it again.');
        return;
      }
      const { steps, stopped, edit, before, after, leaving, measured } = run;
      const says = stopped ?? (edit ? figuresText(before, after) : 'It changes nothing on this piece.');
      this.tried$.next({ recipe, steps, stopped, says });
      this.leaving = leaving;
      this.measured = measured;
      if (!edit) {
        this.notices.say(`${recipe.name}: ${says}`, stopped !== null);
        return;
      }
      this.proposals.propose({
        source: 'recipe',
        title: `${recipe.name}: ${says}.`,
        keepLabel: 'Keep what it made',
        figures: figuresOf(before, after),
        edit,
      });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }

  /** Another recipe for the yard. */
  async add(recipe: Recipe): Promise<void> {
    await this.rules.change((rules) => ({ ...rules, recipes: [...rules.recipes, recipe] }));
  }
}

function figuresOf(before: PieceFigures, after: PieceFigures): Figure[] {
  const rows: [string, (of: PieceFigures) => string][] = [
    ['Size', ({ size }) => (size ? sizeText(size) : '–')],
    ['Parts', ({ parts }) => countText(parts)],
    ['Triangles', ({ triangles }) => countText(triangles)],
    ['Shapes', ({ shapes }) => countText(shapes)],
    ['Excess', ({ excess }) => (excess === null ? '–' : lengthText(excess))],
    ['Uncovered', ({ uncovered }) => (uncovered === null ? '–' : lengthText(uncovered))],
  ];
  return rows.map(([name, text]) => ({ name, now: text(before), next: text(after) }));
}
