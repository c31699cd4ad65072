import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { artNodes, followPivot, type PivotRule, pivotsByRule } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Check } from '../../../../ui/check';
import { LongTable } from '../../../../ui/long-table';
import { Choice, type Option } from '../../../../ui/choice';
import { PIVOT_COLUMNS, pivotRows } from './pivot-rows';
import { WhosePivot } from './whose-pivot';

const RULES: { rule: PivotRule; name: string }[] = [
  { rule: 'base-centre', name: 'base centre' },
  { rule: 'centre', name: 'centre' },
  { rule: 'origin', name: 'origin' },
  { rule: 'as-it-came', name: 'as imported' },
];

/** The pivots of all parts: by one rule, following each other, delivered each on its own. */
@Component({
  selector: 'yb-all-parts-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice, LongTable],
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
        <yb-long-table
          [columns]="columns"
          [rows]="rows()"
          [current]="whose.part()"
          [checked]="included()"
          checkLabel="Rules apply to"
          (chosen)="whose.turnTo($event)"
          (checkedChange)="except($event.id, !$event.checked)"
        />
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
})
export class AllPartsPanel {
  protected readonly whose = inject(WhosePivot);
  private readonly bench = inject(BenchStore);
  protected readonly rules = RULES;
  protected readonly hinges = signal(false);
  protected readonly excepted = signal<ReadonlySet<string>>(new Set());
  protected readonly columns = PIVOT_COLUMNS;
  protected readonly parts = computed(() => {
    const { nodes } = this.whose.document();
    return artNodes(nodes).map((i) => ({ id: nodes[i]!.id, name: nodes[i]!.name }));
  });
  protected readonly rows = computed(() => pivotRows(this.whose.document()));
  protected readonly included = computed(() => {
    const excepted = this.excepted();
    return new Set(this.parts().flatMap(({ id }) => (excepted.has(id) ? [] : [id])));
  });
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
