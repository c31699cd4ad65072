import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { counted, countText, lengthText, type Vec3, type WalkTrial } from '@yard-brace/core';
import { TrialFlags } from '../state/trial-flags';
import { type Fact, FactTable } from './fact-table';
import { TrialPlaces } from './trial-places';
import { linesOf, openingText, type TrialLine } from './trial-texts';

/** Places that are shown at first. */
const FIRST_PLACES = 8;

/** What a walk from all sides came to: figures, openings, and the places, which are flagged in the view. */
@Component({
  selector: 'yb-walk-report',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FactTable, TrialPlaces],
  host: { class: 'panel' },
  template: `
    <yb-facts [facts]="facts()" />
    <ng-content />
    @if (walk().openings.length) {
      <ul class="list" aria-label="Openings">
        @for (opening of walk().openings; track $index) {
          <li>
            <button type="button" class="quiet-button grow" (click)="look.emit(opening.at)">
              {{ opening.passes ? '✓' : '✕' }} {{ opening.name }}
            </button>
            <span class="figures">{{ openingText(opening) }}</span>
          </li>
        }
      </ul>
    }
    @if (lines().length) {
      <yb-trial-places
        [lines]="lines()"
        [most]="most()"
        [shapeName]="shapeName()"
        (go)="go.emit($event)"
        (replay)="replay.emit($event)"
        (all)="all.set(true)"
      />
    } @else {
      <p>Nothing stops the {{ who() }} that the art does not.</p>
    }
  `,
  styles: `
    .quiet-button {
      justify-content: flex-start;
      padding: 0;
      text-align: left;
    }
  `,
})
export class WalkReport {
  readonly walk = input.required<WalkTrial>();
  /** name of the agent */
  readonly who = input.required<string>();
  readonly shapeName = input.required<(shape: string | null) => string>();
  readonly go = output<TrialLine>();
  readonly replay = output<TrialLine>();
  /** at an opening */
  readonly look = output<Vec3>();
  protected readonly openingText = openingText;
  protected readonly all = signal(false);
  protected readonly most = computed(() => (this.all() ? Infinity : FIRST_PLACES));
  protected readonly lines = computed(() => linesOf(this.walk()));
  protected readonly facts = computed((): Fact[] => {
    const walk = this.walk();
    const [gap] = walk.contacts;
    const lost = walk.routes.filter(({ found }) => !found).length;
    return [
      { name: 'runs', text: countText(walk.runs) },
      { name: 'falls through', text: countText(walk.fallCount), bad: walk.fallCount > 0 },
      { name: 'gets stuck', text: countText(walk.stuck.length), bad: walk.stuck.length > 0 },
      { name: 'stopped by air', text: countText(walk.blockedCount), bad: walk.blockedCount > 0 },
      { name: 'shaken', text: countText(walk.jolts.length), bad: walk.jolts.length > 0 },
      { name: 'stumbles', text: countText(walk.stumbles.length) },
      {
        name: 'routes found',
        text: `${countText(walk.routes.length - lost)} of ${countText(walk.routes.length)}`,
        bad: lost > 0,
      },
      {
        name: 'gaps at contacts',
        text: gap
          ? `${counted(walk.contactCount, 'place')}, up to ${lengthText(gap.metres)}`
          : 'none that is felt',
      },
    ];
  });

  constructor() {
    const flags = inject(TrialFlags);
    effect(() =>
      flags.show(
        this.lines()
          .slice(0, this.most())
          .map(({ id, at }) => ({ id, at: [...at] })),
      ),
    );
    inject(DestroyRef).onDestroy(() => flags.show([]));
  }
}
