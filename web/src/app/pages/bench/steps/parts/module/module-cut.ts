import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { dot, type OperationOf, subtract, type Vec3 } from '@yard-brace/core';
import { Picking } from '../../../../../state/picking';
import { AmountField } from '../../../../../ui/amount-field';
import { Check } from '../../../../../ui/check';
import { ModuleRun } from './module-run';

/** A module cut to length or in two at a typed place, or where something is picked. */
@Component({
  selector: 'yb-module-cut',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Check],
  template: `
    <div class="row">
      <span>at</span>
      <yb-amount [value]="at()" label="Cut at" [width]="90" (changed)="at.set($event)" />
      <span class="faded">from the pivot</span>
      <button type="button" class="act" (click)="pick()">Pick where …</button>
      <yb-check [checked]="closed()" (changed)="closed.set($event)">closed</yb-check>
    </div>
    <div class="row">
      <button type="button" class="act" (click)="trim(1)" data-testid="cut-beyond">Cut off beyond</button>
      <button type="button" class="act" (click)="trim(-1)">Cut off before</button>
      <button type="button" class="act" (click)="divide()">Divide there</button>
    </div>
  `,
})
export class ModuleCut {
  private readonly run = inject(ModuleRun);
  private readonly picking = inject(Picking);
  protected readonly at = this.run.at(0.5);
  protected readonly closed = signal(true);

  protected async pick(): Promise<void> {
    const picked = await this.picking.ask(
      'Pick where it is cut: on the piece, on one beside it, or on the ground.',
      { ground: true },
    );
    if (picked) this.at.set(dot(subtract(picked.at, this.run.origin()), this.run.along()));
  }

  /** @param way 1 for what lies beyond the place, -1 for what lies before it */
  protected trim(way: 1 | -1): void {
    this.run.propose({
      op: 'trim',
      parts: this.run.chosen.ids(),
      ...this.plane(way),
      close: this.closed(),
    });
  }

  protected divide(): void {
    this.run.propose({
      op: 'split-plane',
      parts: this.run.chosen.ids(),
      ...this.plane(),
      close: this.closed(),
    });
  }

  private plane(way: 1 | -1 = 1): OperationOf<'mirror'>['plane'] {
    const point: Vec3 = [...this.run.origin()];
    const normal: Vec3 = [0, 0, 0];
    point[this.run.axis()]! += this.at();
    normal[this.run.axis()] = way;
    return { point, normal };
  }
}
