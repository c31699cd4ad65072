import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ArtLooks } from '../../../state/art-looks';
import { ViewSettingsStore } from '../../../state/view-settings';
import { UV_LEGEND } from '../../../viewport/uv-colors';

/** What the colours of painted UVs mean. */
@Component({
  selector: 'yb-uv-legend',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (settings().uvPaint; as paint) {
      <div class="legend" data-testid="uv-legend">
        <span
          >{{ paint.what === 'density' ? 'Pictures a metre' : 'Stretch' }} of set {{ paint.set + 1 }}</span
        >
        @if (ends(); as ends) {
          <span class="scale" aria-hidden="true">
            @for (color of colors(); track color) {
              <i [style.background]="color"></i>
            }
          </span>
          <span class="ends figures">
            @for (end of ends; track $index) {
              <span>{{ end }}</span>
            }
          </span>
        } @else {
          <span role="status">Measuring …</span>
        }
      </div>
    }
  `,
  styles: `
    .legend {
      display: grid;
      gap: 4px;
      min-width: 190px;
      padding: 8px 10px;
      font-size: 12px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
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
export class UvLegend {
  protected readonly settings = toSignal(inject(ViewSettingsStore).settings$, { requireSync: true });
  private readonly painted = toSignal(inject(ArtLooks).uvs$, { requireSync: true });
  /** nothing can be stretched less than not at all */
  protected readonly colors = computed(() =>
    this.settings().uvPaint?.what === 'stretch' ? UV_LEGEND.slice(UV_LEGEND.length >> 1) : UV_LEGEND,
  );
  protected readonly ends = computed(() => {
    const painted = this.painted();
    if (!painted) return null;
    if (painted.what === 'stretch') return ['none', '2 : 1', '4 : 1', '8 : 1'];
    const at = (factor: number) => String(Number((painted.middle * factor).toPrecision(2)));
    return [at(1 / 8), at(1), at(8)];
  });
}
