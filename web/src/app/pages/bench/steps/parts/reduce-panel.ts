import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { Operation } from '@yard-brace/core';
import { Operations } from '../../../../state/operations';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';

/** Fewer triangles, by their share or by how far the surface may move. */
@Component({
  selector: 'yb-reduce-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NumberField],
  template: `
    <section class="panel">
      <h3>Reduce {{ chosen.words() }}</h3>
      <div class="row">
        <button type="button" class="act" (click)="toShare()">Reduce to</button>
        <yb-number
          [value]="percent()"
          (changed)="percent.set($event)"
          unit="%"
          label="Share of the triangles"
          [min]="0"
          [max]="100"
          [digits]="1"
          [width]="66"
        />
        <button type="button" class="act" (click)="within()">Reduce within</button>
        <yb-number
          [value]="errorMm()"
          (changed)="errorMm.set($event)"
          unit="mm"
          label="Error of the reduction"
          [min]="0.001"
          [digits]="3"
          [width]="76"
        />
      </div>
    </section>
  `,
})
export class ReducePanel {
  private readonly operations = inject(Operations);
  protected readonly chosen = chosenParts();
  protected readonly percent = signal(50);
  protected readonly errorMm = signal(5);

  protected toShare(): void {
    this.propose({ op: 'reduce', parts: this.chosen.ids(), share: this.percent() / 100 });
  }

  protected within(): void {
    this.propose({ op: 'reduce', parts: this.chosen.ids(), metres: this.errorMm() / 1000 });
  }

  private propose(operation: Operation): void {
    void this.operations.propose(operation);
  }
}
