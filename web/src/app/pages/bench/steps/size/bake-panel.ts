import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { FactTable } from '../../../../ui/fact-table';
import { transformFacts } from './transform-facts';

/** So many transforms are listed before the rest is asked for. */
const FIRST_ROWS = 6;

/** Transforms put into the vertices. */
@Component({
  selector: 'yb-bake-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice, FactTable],
  template: `
    <section class="panel">
      <h3>Bake transforms into the vertices</h3>
      <div class="row">
        <yb-check [checked]="position()" (changed)="position.set($event)">position</yb-check>
        <yb-check [checked]="rotation()" (changed)="rotation.set($event)">rotation</yb-check>
        <yb-check [checked]="true" [disabled]="true">scale</yb-check>
      </div>
      <div class="row">
        <yb-choice
          class="grow"
          label="What to bake"
          [options]="parts()"
          [value]="part()"
          (chosen)="part.set($event)"
        />
        <button type="button" class="act" (click)="bake()" data-testid="bake">Bake</button>
      </div>
      @if (facts().length) {
        <yb-facts [facts]="shown()" [wraps]="true" />
        @if (more()) {
          <button type="button" class="quiet-button" (click)="all.set(true)">Show {{ more() }} more</button>
        }
      } @else {
        <p class="faded">All transforms are identity.</p>
      }
    </section>
  `,
})
export class BakePanel {
  private readonly operations = inject(Operations);
  private readonly document = toSignal(inject(BenchStore).document$);
  protected readonly position = signal(true);
  protected readonly rotation = signal(true);
  protected readonly part = signal<string | null>(null);
  protected readonly all = signal(false);
  protected readonly parts = computed((): Option<string | null>[] => [
    { label: 'the whole tree', value: null },
    ...(this.document()?.nodes ?? []).map(({ id, name }) => ({ label: name, value: id })),
  ]);
  protected readonly facts = computed(() => (this.document() ? transformFacts(this.document()!) : []));
  protected readonly shown = computed(() => (this.all() ? this.facts() : this.facts().slice(0, FIRST_ROWS)));
  protected readonly more = computed(() => this.facts().length - this.shown().length);

  protected bake(): void {
    const part = this.part();
    void this.operations.propose({
      op: 'bake',
      parts: part === null ? [] : [part],
      keepPosition: !this.position(),
      keepRotation: !this.rotation(),
    });
  }
}
