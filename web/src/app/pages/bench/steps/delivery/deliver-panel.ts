import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { Deliveries } from './deliveries';

/** What goes, and what keeps it here. */
@Component({
  selector: 'yb-deliver-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @if (document(); as document) {
      <section class="panel">
        <h3>What goes</h3>
        <p>
          Mesh <b class="figures">{{ document.meshName }}</b> with
          {{ document.proxies.length ? counted(document.proxies.length, 'shape') : 'no shapes' }}, its pivot
          at the origin, one file; a manifest and an import sheet beside it.
        </p>
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
              (onClick)="deliveries.deliver()"
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
  /** from all the other steps */
  protected readonly errors = computed(
    () =>
      this.judged()?.findings.filter(({ severity, step }) => severity === 'error' && step !== 'delivery') ??
      [],
  );
}
