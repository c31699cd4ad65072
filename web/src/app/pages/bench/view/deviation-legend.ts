import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText } from '@yard-brace/core';
import { DeviationStore } from '../../../state/deviation-store';
import { ViewMarks } from '../../../state/view-marks';
import { ViewSettingsStore } from '../../../state/view-settings';
import { LEGEND } from '../../../viewport/deviation-paint';

/** What the colours of the deviation view mean. */
@Component({
  selector: 'yb-deviation-legend',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (settings().deviation) {
      <div class="legend" data-testid="legend">
        @if (figures(); as figures) {
          <span class="most">
            @for (most of figures.most; track most.name) {
              <button
                type="button"
                class="quiet-button"
                title="Go there"
                [disabled]="!most.at"
                (click)="marks.goTo(most.at)"
              >
                {{ most.name }} <b class="figures">{{ most.text }}</b>
              </button>
            }
            at most
          </span>
          <span class="scale" aria-hidden="true">
            @for (color of colors; track $index) {
              <i [style.background]="color"></i>
            }
          </span>
          <span class="ends figures"
            ><span>uncovered {{ figures.scale }}</span
            ><span>0</span><span>{{ figures.scale }} excess</span></span
          >
        } @else {
          <span>{{ shapes() ? 'Measuring …' : 'No shapes to measure against' }}</span>
        }
      </div>
    }
  `,
  styles: `
    .legend {
      display: grid;
      gap: 4px;
      padding: 8px 10px;
      font-size: 12px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
    .most {
      display: flex;
      gap: 8px;
      align-items: center;
      white-space: nowrap;
    }
    .scale {
      display: flex;
      height: 10px;
    }
    .scale i {
      flex: 1;
    }
    .ends {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      font-size: 11px;
    }
  `,
})
export class DeviationLegend {
  /** how many shapes are shown */
  readonly shapes = input(0);
  protected readonly marks = inject(ViewMarks);
  protected readonly settings = toSignal(inject(ViewSettingsStore).settings$, { requireSync: true });
  private readonly deviation = toSignal(inject(DeviationStore).deviation$, { requireSync: true });
  protected readonly colors = LEGEND;
  protected readonly figures = computed(() => {
    const deviation = this.deviation();
    return (
      deviation && {
        most: [
          { name: 'Uncovered', text: lengthText(deviation.artOutside), at: deviation.artOutsideAt },
          { name: 'Excess', text: lengthText(deviation.proxyOutside), at: deviation.proxyOutsideAt },
        ],
        scale: lengthText(deviation.scale),
      }
    );
  });
}
