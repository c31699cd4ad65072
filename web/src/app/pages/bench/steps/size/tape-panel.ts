import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { distance, measuredText, sizeText } from '@yard-brace/core';
import { Picking } from '../../../../state/picking';
import { type Tape, ViewMarks } from '../../../../state/view-marks';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { Keymap } from '../../../../ui/keymap';

/** Lengths measured between two points. */
@Component({
  selector: 'yb-tape-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check],
  template: `
    <section class="panel">
      <h3>Measure</h3>
      <div class="row">
        <button type="button" class="act" (click)="measure()" title="M" data-testid="tape">
          Between two points …
        </button>
        <yb-check [checked]="settings().dimensions" (changed)="view.set({ dimensions: $event })"
          >dimensions on the piece</yb-check
        >
      </div>
      @if (tapes().length) {
        <ul class="list">
          @for (tape of tapes(); track $index; let i = $index) {
            <li>
              <span class="figures">{{ long(tape) }}</span>
              <span class="figures faded grow">{{ across(tape) }}</span>
              <button
                type="button"
                class="quiet-button"
                (click)="marks.removeTape(i)"
                [attr.aria-label]="'Remove measurement ' + (i + 1)"
              >
                <span class="pi pi-times" aria-hidden="true"></span>
              </button>
            </li>
          }
        </ul>
      }
    </section>
  `,
})
export class TapePanel {
  private readonly picking = inject(Picking);
  protected readonly view = inject(ViewSettingsStore);
  protected readonly marks = inject(ViewMarks);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly tapes = toSignal(this.marks.tapes$, { requireSync: true });

  constructor() {
    inject(Keymap).bind([
      { keys: ['M'], help: 'measure between two points, in the size step', act: () => void this.measure() },
    ]);
  }

  protected async measure(): Promise<void> {
    const ends = await this.picking.askTwo('Pick the first point.', 'Pick the other point.');
    if (ends) this.marks.addTape([ends[0].at, ends[1].at]);
  }

  protected long = ([a, b]: Tape): string => measuredText(distance(a, b));
  protected across = ([a, b]: Tape): string => sizeText(a.map((v, k) => Math.abs(v - b[k]!)));
}
