import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { coordinatesText, hingeBetween, turnAbout, type Vec3 } from '@yard-brace/core';
import { Slider } from 'primeng/slider';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { ViewMarks } from '../../../../state/view-marks';
import { WhosePivot } from './whose-pivot';

/** A hinge or an axle, and a look at how it swings. */
@Component({
  selector: 'yb-hinge-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Slider],
  template: `
    <section class="panel">
      <h3>Hinge or axle</h3>
      <div class="row">
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="alongEdge()"
          data-testid="hinge-edge"
        >
          Along an edge …
        </button>
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="throughPoints()"
          data-testid="hinge-points"
        >
          Through two points …
        </button>
        @if (whose.pivot().hinge) {
          <button type="button" class="act" [disabled]="whose.locked()" (click)="remove()">No hinge</button>
        }
      </div>
      @if (whose.pivot().hinge; as hinge) {
        <div class="row swing" data-testid="swing">
          <span>Swing</span>
          <p-slider
            class="grow"
            [min]="-180"
            [max]="180"
            [ngModel]="degrees()"
            (ngModelChange)="swing($event)"
            ariaLabel="Open the hinge"
          />
          <span class="figures">{{ degrees() }}°</span>
          @if (degrees() !== 0) {
            <button type="button" class="act" (click)="keep()">Keep this angle</button>
            <button type="button" class="quiet-button" (click)="swing(0)">Reset to 0°</button>
          }
        </div>
        <p class="faded figures">axis {{ coordinatesText(hinge.axis) }}</p>
      }
    </section>
  `,
  styles: `
    .swing {
      gap: 14px;
    }
  `,
})
export class HingePanel {
  protected readonly whose = inject(WhosePivot);
  private readonly marks = inject(ViewMarks);
  private readonly picking = inject(Picking);
  private readonly operations = inject(Operations);
  private readonly swung = toSignal(this.marks.swing$, { requireSync: true });
  protected readonly degrees = computed(() => {
    const swung = this.swung();
    return swung && swung.part === (this.whose.part() ?? '') ? swung.degrees : 0;
  });

  protected readonly coordinatesText = coordinatesText;

  protected async alongEdge(): Promise<void> {
    const picked = await this.picking.ask('Pick the edge that the hinge runs along.');
    if (picked) this.put(...picked.edge);
  }

  protected async throughPoints(): Promise<void> {
    const ends = await this.picking.askTwo('Pick one end of the hinge.', 'Pick the other end of the hinge.');
    if (ends) this.put(ends[0].at, ends[1].at);
  }

  protected remove(): void {
    this.whose.change({ hinge: undefined, anchor: 'numeric' });
  }

  protected swing(degrees: number): void {
    this.marks.swing(degrees === 0 ? null : { part: this.whose.part() ?? '', degrees });
  }

  /** The part stays turned as it was tried. */
  protected async keep(): Promise<void> {
    const { hinge, position } = this.whose.pivot();
    const degrees = this.degrees();
    if (!hinge || !degrees) return;
    this.marks.swing(null);
    await this.operations.propose({
      op: 'move',
      part: this.whose.part(),
      by: [0, 0, 0],
      turn: turnAbout(hinge.axis, degrees),
      about: position,
    });
  }

  private put(a: Vec3, b: Vec3): void {
    const hinge = hingeBetween(a, b);
    if (hinge) this.whose.change({ ...hinge, cell: undefined }, 'hinge');
  }
}
