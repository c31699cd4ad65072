import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Slider } from 'primeng/slider';
import { ViewSettingsStore } from '../../../state/view-settings';
import { Segments } from '../../../ui/segments';

/** Where the piece is cut open. */
@Component({
  selector: 'yb-cut-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Slider, Segments],
  template: `
    @if (settings().cut; as cut) {
      <div class="bar">
        <yb-segments
          label="Axis of the cut"
          [options]="axes"
          [value]="cut.axis"
          (chosen)="view.setCut({ axis: $event ?? cut.axis })"
        />
        <p-slider
          [ngModel]="cut.at * 100"
          (ngModelChange)="view.setCut({ at: $event / 100 })"
          [min]="0"
          [max]="100"
          [step]="0.5"
          ariaLabel="Where the cut runs"
          [style]="{ width: '110px' }"
        />
        <button type="button" class="act" (click)="view.setCut({ flipped: !cut.flipped })">Other half</button>
      </div>
    }
  `,
  styles: `
    .bar {
      display: flex;
      align-items: center;
      gap: 14px;
      padding: 3px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
  `,
})
export class CutBar {
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly axes: { label: string; value: 0 | 1 | 2 }[] = [
    { label: 'x', value: 0 },
    { label: 'y', value: 1 },
    { label: 'z', value: 2 },
  ];
}
