import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { AmountField } from '../../../../../ui/amount-field';
import { ModuleHeld } from './module-held';
import { ModuleRun } from './module-run';

/** A module brought to a length between two places; what lies outside them is not deformed. */
@Component({
  selector: 'yb-module-stretch',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, ModuleHeld],
  template: `
    <div class="row">
      <span>between</span>
      <yb-amount [value]="from()" label="Stretched from" [width]="84" (changed)="from.set($event)" />
      <span>and</span>
      <yb-amount [value]="to()" label="Stretched to" [width]="84" (changed)="to.set($event)" />
      <span>whole length</span>
      <yb-amount [value]="run.length()" label="Whole length" [width]="90" (changed)="stretch($event)" />
    </div>
    <yb-module-held />
  `,
})
export class ModuleStretch {
  protected readonly run = inject(ModuleRun);
  protected readonly from = this.run.at(0.25);
  protected readonly to = this.run.at(0.75);

  /** What the ends take stays; the rest of the length is that of the middle. */
  protected stretch(wholeMetres: number): void {
    const metres = this.to() - this.from() + wholeMetres - this.run.length();
    if (metres > 0)
      this.run.propose({
        op: 'stretch',
        parts: this.run.chosen.ids(),
        module: this.run.between(this.from(), this.to()),
        metres,
        held: this.run.held(),
      });
  }
}
