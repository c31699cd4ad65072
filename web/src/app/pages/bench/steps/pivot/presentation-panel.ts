import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artBounds, baseCentreOf, centreOf, type Pivot, pivotAt, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Picking } from '../../../../state/picking';
import { AmountField } from '../../../../ui/amount-field';

/** A second pivot, for a turntable: it leaves only where a delivery asks for it. */
@Component({
  selector: 'yb-presentation-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField],
  template: `
    <section class="panel">
      <h3>Pivot for presentation</h3>
      <p class="faded">It leaves only where a delivery asks for it.</p>
      @if (pivot(); as pivot) {
        <div class="row">
          @for (axis of axes; track axis; let i = $index) {
            <span class="labelled"
              >{{ axis }}
              <yb-amount
                [value]="pivot.position[i]!"
                [label]="'Presentation pivot ' + axis"
                [width]="80"
                (changed)="type(i, $event)"
            /></span>
          }
        </div>
      }
      <div class="row">
        <button type="button" class="act" (click)="atCentre()">At the centre</button>
        <button type="button" class="act" (click)="atBase()">At the base centre</button>
        <button type="button" class="act" (click)="pick()">Pick a place …</button>
        @if (pivot()) {
          <button type="button" class="act" (click)="put(null)">Remove</button>
        }
      </div>
    </section>
  `,
})
export class PresentationPanel {
  private readonly bench = inject(BenchStore);
  private readonly picking = inject(Picking);
  private readonly document = toSignal(this.bench.document$);
  protected readonly axes = ['x', 'y', 'z'];
  protected readonly pivot = computed(() => this.document()?.presentation ?? null);

  protected atCentre(): void {
    this.put(pivotAt('centre', centreOf(artBounds(this.bench.document))));
  }

  protected atBase(): void {
    this.put(pivotAt('base-centre', baseCentreOf(artBounds(this.bench.document))));
  }

  protected async pick(): Promise<void> {
    const picked = await this.picking.ask('Pick where the piece is turned about for presentation.', {
      ground: true,
    });
    if (picked) this.put(pivotAt('numeric', picked.at));
  }

  protected type(axis: number, metres: number): void {
    const position: Vec3 = [...this.pivot()!.position];
    position[axis] = metres;
    this.put(pivotAt('numeric', position));
  }

  protected put(pivot: Pivot | null): void {
    this.bench.apply({ kind: 'set-presentation', pivot });
  }
}
