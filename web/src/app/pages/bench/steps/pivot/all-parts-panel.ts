import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artNodes, followPivot, partPivot, type PivotRule, pivotsByRule } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { pivotWords } from './anchor-words';
import { WhosePivot } from './whose-pivot';

const RULES: { rule: PivotRule; name: string }[] = [
  { rule: 'base-centre', name: 'base centre' },
  { rule: 'centre', name: 'centre' },
  { rule: 'origin', name: 'origin' },
  { rule: 'as-it-came', name: 'as imported' },
];
/** So many parts are listed before the rest is asked for. */
const FIRST_ROWS = 40;

/** The pivots of all parts: by one rule, following each other, delivered each on its own. */
@Component({
  selector: 'yb-all-parts-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice],
  template: `
    @if (parts().length > 1) {
      <section class="panel">
        <h3>All parts at once</h3>
        <div class="row">
          @for (each of rules; track each.rule) {
            <button type="button" class="act" (click)="rule(each.rule)">{{ each.name }}</button>
          }
          <yb-check [checked]="hinges()" (changed)="hinges.set($event)">hinges too</yb-check>
        </div>
        <ul class="list">
          @for (part of shown(); track part.id) {
            <li [class.current]="part.id === whose.part()">
              <yb-check
                [checked]="!excepted().has(part.id)"
                (changed)="except(part.id, !$event)"
                [label]="'Rules apply to ' + part.name"
              />
              <button type="button" class="quiet-button grow" (click)="whose.turnTo(part.id)">
                {{ part.name }}
              </button>
              <span class="faded">{{ part.words }}</span>
            </li>
          }
        </ul>
        @if (more()) {
          <button type="button" class="quiet-button" (click)="all.set(true)">Show {{ more() }} more</button>
        }
        @if (whose.part() !== null) {
          <div class="row">
            <span>Follow the pivot of</span>
            <yb-choice
              class="grow"
              label="Follow the pivot of"
              [options]="leaders()"
              [value]="following()"
              [disabled]="whose.locked()"
              (chosen)="follow($event)"
            />
          </div>
        }
        <yb-check [checked]="eachPart()" (changed)="setLeaves($event)" data-testid="each-part"
          >deliver each part on its own pivot; the manifest assembles them</yb-check
        >
      </section>
    }
  `,
  styles: `
    .current {
      background: var(--paper);
    }
    .quiet-button {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class AllPartsPanel {
  protected readonly whose = inject(WhosePivot);
  private readonly bench = inject(BenchStore);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly pieceId = computed(() => this.piece()?.id);
  protected readonly rules = RULES;
  protected readonly hinges = signal(false);
  protected readonly all = signal(false);
  protected readonly excepted = linkedSignal<number | undefined, ReadonlySet<string>>({
    source: this.pieceId,
    computation: () => new Set(),
  });
  protected readonly parts = computed(() => {
    const document = this.whose.document();
    return artNodes(document.nodes).map((i) => {
      const { id, name, pivot } = document.nodes[i]!;
      return { id, name, words: pivotWords(partPivot(document, i), pivot?.follows !== undefined) };
    });
  });
  protected readonly shown = computed(() => (this.all() ? this.parts() : this.parts().slice(0, FIRST_ROWS)));
  protected readonly more = computed(() => this.parts().length - this.shown().length);
  protected readonly leaders = computed((): Option<string | null>[] => [
    { label: 'no other part', value: null },
    ...this.parts()
      .filter(({ id }) => id !== this.whose.part())
      .map(({ id, name }) => ({ label: name, value: id })),
  ]);
  protected readonly following = computed(
    () => this.whose.document().nodes.find(({ id }) => id === this.whose.part())?.pivot?.follows ?? null,
  );
  protected readonly eachPart = computed(() => this.whose.document().leaves === 'each-part');

  protected rule(rule: PivotRule): void {
    const options = { except: this.excepted(), hinges: this.hinges() };
    this.bench.apply(pivotsByRule(this.bench.document, rule, options));
  }

  protected except(id: string, excepted: boolean): void {
    const next = new Set(this.excepted());
    if (excepted) next.add(id);
    else next.delete(id);
    this.excepted.set(next);
  }

  protected follow(leader: string | null): void {
    const part = this.whose.part();
    if (part !== null) this.bench.apply(followPivot(this.bench.document, part, leader));
  }

  protected setLeaves(each: boolean): void {
    this.bench.apply({ kind: 'set-leaves', leaves: each ? 'each-part' : 'as-one' });
  }
}
