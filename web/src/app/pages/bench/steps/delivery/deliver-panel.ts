import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { Choice, type Option } from '../../../../ui/choice';
import { Deliveries } from './deliveries';

/** What goes, and what keeps it here. */
@Component({
  selector: 'yb-deliver-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Choice],
  template: `
    @if (document(); as document) {
      <section class="panel">
        <h3>What goes</h3>
        <p>
          Mesh <b class="figures">{{ document.meshName }}</b> with
          {{ leaving() ? counted(leaving(), 'shape') : 'no shapes' }}, its pivot at the origin, one file; a
          manifest and an import sheet beside it.
        </p>
        @if (document.sets.length) {
          <div class="row">
            <span class="faded">Shapes</span>
            <yb-choice
              class="grow"
              label="Shapes that leave"
              [options]="sets()"
              [value]="set()"
              (chosen)="wantedSet.set($event)"
            />
          </div>
        }
        @for (finding of errors(); track finding.id) {
          <p class="stop">{{ finding.says }}</p>
        }
        <div class="row">
          @if (deliveries.working()) {
            <p-button label="Stop delivering" size="small" [outlined]="true" (onClick)="deliveries.stop()" />
            <span class="faded" role="status">Assembling and reading back …</span>
          } @else {
            <p-button
              [label]="'Deliver for ' + bench.profile.name"
              size="small"
              [disabled]="errors().length > 0"
              (onClick)="deliveries.deliver(set())"
              data-testid="deliver"
            />
          }
        </div>
      </section>
    }
  `,
  styles: `
    .stop {
      padding: 5px 10px;
      border-left: 6px solid var(--vermilion);
      background: var(--paper);
    }
  `,
})
export class DeliverPanel {
  protected readonly bench = inject(BenchStore);
  protected readonly deliveries = inject(Deliveries);
  protected readonly document = toSignal(this.bench.document$);
  private readonly judged = toSignal(this.bench.judged$);
  protected readonly counted = counted;
  protected readonly wantedSet = signal<string | null>(null);
  protected readonly sets = computed((): Option<string | null>[] => {
    const { proxies, sets } = this.document()!;
    return [
      { label: `In use, ${counted(proxies.length, 'shape')}`, value: null },
      ...sets.map(({ name, proxies }) => ({
        label: `${name}, ${counted(proxies.length, 'shape')}`,
        value: name,
      })),
    ];
  });
  private readonly kept = computed(() => this.document()?.sets.find(({ name }) => name === this.wantedSet()));
  protected readonly set = computed(() => this.kept()?.name ?? null);
  protected readonly leaving = computed(() => (this.kept() ?? this.document())?.proxies.length ?? 0);
  /** from all the other steps */
  protected readonly errors = computed(
    () =>
      this.judged()?.findings.filter(({ severity, step }) => severity === 'error' && step !== 'delivery') ??
      [],
  );
}
