import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { boxBetween, cylinderBetween, type Shape, type Vec3 } from '@yard-brace/core';
import { MakeStore } from '../../../../state/make-store';
import { Picking } from '../../../../state/picking';
import { ShapeEditor } from '../../../../state/shape-editor';
import { AmountField } from '../../../../ui/amount-field';

/** Most places of a line that is drawn. */
const MAX_PLACES = 256;

/** Shapes drawn from nothing, point by point, on the art or on the ground. */
@Component({
  selector: 'yb-draw-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField],
  template: `
    <section class="panel" data-testid="draw">
      <div class="row">
        <button type="button" class="act" (click)="box()">Box …</button>
        <button type="button" class="act" (click)="cylinder()">Cylinder …</button>
        <button type="button" class="act" (click)="chain()">Chain …</button>
      </div>
      <div class="row">
        <span class="grow faded">Chain, wide and high</span>
        <yb-amount [value]="width()" label="Width of the chain" (changed)="width.set($event)" />
        <yb-amount [value]="height()" label="Height of the chain" (changed)="height.set($event)" />
      </div>
    </section>
  `,
})
export class DrawPanel {
  private readonly picking = inject(Picking);
  private readonly editor = inject(ShapeEditor);
  private readonly make = inject(MakeStore);
  protected readonly width = signal(0.1);
  protected readonly height = signal(0.1);

  protected box(): Promise<void> {
    return this.three(
      ['Pick a corner of its base.', 'Pick the corner across from it.', 'Pick a place as high as its top.'],
      boxBetween,
    );
  }

  protected cylinder(): Promise<void> {
    return this.three(
      ['Pick the middle of its base.', 'Pick a place on its rim.', 'Pick a place as high as its top.'],
      cylinderBetween,
    );
  }

  /** Boxes through as many places as are picked; Escape or Done ends the line. */
  protected async chain(): Promise<void> {
    const line: Vec3[] = [];
    while (line.length < MAX_PLACES) {
      const what = line.length
        ? `Pick the next place of the chain (${line.length} so far); Cancel ends it.`
        : 'Pick where the chain begins.';
      const picked = await this.picking.ask(what, { ground: true });
      if (!picked) break;
      line.push(picked.at);
    }
    if (line.length < 2) return;
    await this.make.propose(
      { make: 'drawn-chain', line, width: this.width(), height: this.height(), closed: false },
      'A chain of boxes along the line.',
    );
  }

  private async three(
    asks: readonly [string, string, string],
    draw: (a: Vec3, b: Vec3, c: Vec3) => Shape,
  ): Promise<void> {
    const places: Vec3[] = [];
    for (const ask of asks) {
      const picked = await this.picking.ask(ask, { ground: true });
      if (!picked) return;
      places.push(picked.at);
    }
    this.editor.add([draw(places[0]!, places[1]!, places[2]!)]);
  }
}
