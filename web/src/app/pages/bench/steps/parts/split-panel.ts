import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artBounds, type Operation, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { cutPlace } from '../../../../state/cut-plane';
import { Operations } from '../../../../state/operations';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';

const DEFAULT_SPECK_METRES = 0.01;

/** Parts into more of them: by shell, by material, along the cut. */
@Component({
  selector: 'yb-split-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, NumberField],
  template: `
    <section class="panel">
      <h3>Split {{ chosen.words() }}</h3>
      <div class="row">
        <button type="button" class="act" (click)="byShells()" data-testid="split-shells">By shell</button>
        <span class="labelled"
          >keeping specks below
          <yb-number
            [value]="speckMetres() * 1000"
            (changed)="speckMetres.set($event / 1000)"
            unit="mm"
            label="Smallest shell"
            [min]="0"
            [digits]="1"
            [width]="72"
        /></span>
      </div>
      <div class="row">
        <button type="button" class="act" (click)="byMaterials()">By material</button>
        <button
          type="button"
          class="act"
          [disabled]="!settings().cut"
          (click)="alongCut()"
          [title]="settings().cut ? '' : 'Cut the piece open first (C)'"
        >
          Along the cut
        </button>
        <yb-check [checked]="closing()" (changed)="closing.set($event)">closed</yb-check>
      </div>
    </section>
  `,
})
export class SplitPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  protected readonly settings = toSignal(inject(ViewSettingsStore).settings$, { requireSync: true });
  private readonly document = toSignal(this.bench.document$);
  protected readonly chosen = chosenParts();
  protected readonly speckMetres = signal(DEFAULT_SPECK_METRES);
  protected readonly closing = signal(true);

  protected byShells(): void {
    this.propose({ op: 'split-shells', parts: this.chosen.ids(), smallest: this.speckMetres() });
  }

  protected byMaterials(): void {
    this.propose({ op: 'split-materials', parts: this.chosen.ids() });
  }

  protected alongCut(): void {
    const { cut } = this.settings();
    if (!cut) return;
    const bounds = artBounds(this.document()!);
    const point = bounds.min.map((v, k) => (v + bounds.max[k]!) / 2) as Vec3;
    point[cut.axis] = cutPlace(cut, bounds);
    const normal: Vec3 = [0, 0, 0];
    normal[cut.axis] = 1;
    this.propose({ op: 'split-plane', parts: this.chosen.ids(), point, normal, close: this.closing() });
  }

  private propose(operation: Operation): void {
    void this.operations.propose(operation);
  }
}
