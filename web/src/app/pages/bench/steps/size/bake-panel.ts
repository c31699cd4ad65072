import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { Check } from '../../../../ui/check';
import { LongTable } from '../../../../ui/long-table';
import { TRANSFORM_COLUMNS, transformRows } from './transform-rows';

/** Transforms put into the vertices: of all nodes, but for those that are unticked. */
@Component({
  selector: 'yb-bake-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, LongTable],
  template: `
    <section class="panel">
      <h3>Bake transforms into the vertices</h3>
      <div class="row">
        <yb-check [checked]="position()" (changed)="position.set($event)">position</yb-check>
        <yb-check [checked]="rotation()" (changed)="rotation.set($event)">rotation</yb-check>
        <yb-check [checked]="true" [disabled]="true">scale</yb-check>
        <span class="grow"></span>
        <button type="button" class="act" (click)="bake()" data-testid="bake">
          {{ excepted().size ? 'Bake the ticked nodes' : 'Bake' }}
        </button>
      </div>
      <yb-long-table
        [columns]="columns"
        [rows]="rows()"
        [checked]="included()"
        checkLabel="Bake"
        (checkedChange)="tick($event.id, $event.checked)"
        (chosen)="choose($event)"
      />
      @if (identity()) {
        <p class="faded">All transforms are identity.</p>
      }
    </section>
  `,
})
export class BakePanel {
  private readonly operations = inject(Operations);
  private readonly selection = inject(Selection);
  private readonly bench = inject(BenchStore);
  private readonly document = toSignal(this.bench.document$);
  protected readonly columns = TRANSFORM_COLUMNS;
  protected readonly position = signal(true);
  protected readonly rotation = signal(true);
  /** ids of nodes that keep their transforms */
  protected readonly excepted = signal<ReadonlySet<string>>(new Set());
  protected readonly rows = computed(() => (this.document() ? transformRows(this.document()!) : []));
  protected readonly included = computed(() => {
    const excepted = this.excepted();
    return new Set(this.rows().flatMap(({ id }) => (excepted.has(id) ? [] : [id])));
  });
  protected readonly identity = computed(() => this.rows().every(({ bad }) => !bad));

  protected tick(id: string, ticked: boolean): void {
    const next = new Set(this.excepted());
    if (ticked) next.delete(id);
    else next.add(id);
    this.excepted.set(next);
  }

  protected choose(id: string): void {
    this.selection.chooseParts(new Set([id]));
  }

  protected bake(): void {
    const known = new Set(this.bench.document.nodes.map(({ id }) => id));
    const except = [...this.excepted()].filter((id) => known.has(id));
    void this.operations.propose({
      op: 'bake',
      parts: [],
      ...(except.length ? { except } : {}),
      keepPosition: !this.position(),
      keepRotation: !this.rotation(),
    });
  }
}
