import { ChangeDetectionStrategy, Component, inject, linkedSignal, signal } from '@angular/core';
import { MAX_COPIES, scaled } from '@yard-brace/core';
import { AmountField } from '../../../../../ui/amount-field';
import { Check } from '../../../../../ui/check';
import { NumberField } from '../../../../../ui/number-field';
import { ModuleRun } from './module-run';

/** A module in a row, by a number of copies or by the length they fill. */
@Component({
  selector: 'yb-module-repeat',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Check, NumberField],
  template: `
    <div class="row">
      <yb-number
        [value]="count()"
        (changed)="setCount($event)"
        label="Copies in a row"
        [min]="2"
        [max]="maxCopies"
        [digits]="0"
        [width]="58"
      />
      <span>in a row, every</span>
      <yb-amount [value]="step()" label="Step of the copies" [width]="90" (changed)="step.set($event)" />
      <span>in all</span>
      <yb-amount
        [value]="step() * count()"
        label="Length of the row"
        [width]="90"
        (changed)="fillLength($event)"
      />
    </div>
    <div class="row">
      <yb-check [checked]="asOne()" (changed)="asOne.set($event)">as one</yb-check>
      <button type="button" class="act" (click)="repeat()" data-testid="repeat">Repeat</button>
    </div>
  `,
})
export class ModuleRepeat {
  private readonly run = inject(ModuleRun);
  protected readonly maxCopies = MAX_COPIES;
  protected readonly count = signal(3);
  protected readonly step = linkedSignal(() => this.run.length());
  protected readonly asOne = signal(false);

  protected setCount(count: number): void {
    this.count.set(Math.min(MAX_COPIES, Math.max(2, Math.round(count))));
  }

  /** As many as a length takes at this step. */
  protected fillLength(metres: number): void {
    if (this.step() > 0) this.setCount(metres / this.step());
  }

  protected repeat(): void {
    this.run.propose({
      op: 'repeat',
      parts: this.run.chosen.ids(),
      count: this.count(),
      step: scaled(this.run.along(), this.step()),
      asOne: this.asOne(),
    });
  }
}
