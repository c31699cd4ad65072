import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Slider } from 'primeng/slider';
import { type SetOutViews, SetOutLookStore } from '../../state/set-out-look';
import { SetOutPlaced } from '../../state/set-out-placed';
import { SetOutSelection } from '../../state/set-out-selection';
import { Check } from '../../ui/check';
import type { Option } from '../../ui/choice';
import { Segments } from '../../ui/segments';

const VIEWS: Option<SetOutViews>[] = [
  { label: 'Plan', value: 'plan' },
  { label: 'Free', value: 'free' },
  { label: 'Both', value: 'both' },
];
/** Where a cut begins: the share of the height of what stands there. */
const FIRST_CUT = 0.6;

/** The ways of looking at a set-out, over the view. */
@Component({
  selector: 'yb-set-out-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, FormsModule, Segments, Slider],
  template: `
    <yb-segments
      label="Views"
      [options]="views"
      [value]="look().views"
      (chosen)="store.set({ views: $event! })"
    />
    <span class="veil">
      <span>art</span>
      <p-slider
        [ngModel]="look().veil * 100"
        (ngModelChange)="store.set({ veil: $event / 100 })"
        [min]="0"
        [max]="100"
        ariaLabel="Veil between art and proxies"
        [style]="{ width: '70px' }"
      />
      <span>proxies</span>
    </span>
    <button type="button" class="act" (click)="store.goTo()" title="Fit the set-out to the view (Home)">
      Fit
    </button>
    <button
      type="button"
      class="act"
      [disabled]="!chosen().length"
      (click)="hide()"
      title="Leave what is chosen out of the picture, a roof for instance (H); it is delivered all the same"
    >
      Hide chosen
    </button>
    @if (look().hidden.size) {
      <button type="button" class="act" (click)="store.set({ hidden: none })">Show all</button>
    }
    <span class="veil">
      <yb-check [checked]="look().cut !== null" (changed)="cut($event)">cut above</yb-check>
      @if (look().cut !== null) {
        <p-slider
          [ngModel]="(look().cut! - low()) * 1000"
          (ngModelChange)="store.set({ cut: low() + $event / 1000 })"
          [min]="0"
          [max]="(high() - low()) * 1000"
          ariaLabel="Height of the cut"
          [style]="{ width: '70px' }"
        />
      }
    </span>
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 1;
      left: 12px;
      right: 12px;
      top: 10px;
      display: flex;
      flex-wrap: wrap;
      gap: 6px 10px;
      pointer-events: none;
    }
    :host > * {
      pointer-events: auto;
    }
    .veil {
      display: flex;
      align-items: center;
      gap: 12px;
      min-height: 28px;
      padding: 0 10px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
  `,
})
export class SetOutBar {
  protected readonly store = inject(SetOutLookStore);
  private readonly selection = inject(SetOutSelection);
  protected readonly views = VIEWS;
  protected readonly none: ReadonlySet<string> = new Set();
  protected readonly look = toSignal(this.store.look$, { requireSync: true });
  protected readonly chosen = toSignal(this.selection.chosen$, { initialValue: [] });
  private readonly placed = toSignal(inject(SetOutPlaced).placed$, { initialValue: [] });
  protected readonly low = computed(() => Math.min(0, ...this.placed().map(({ bounds }) => bounds.min[1])));
  protected readonly high = computed(() => Math.max(1, ...this.placed().map(({ bounds }) => bounds.max[1])));

  protected hide(): void {
    this.store.set({ hidden: new Set([...this.look().hidden, ...this.selection.ids]) });
  }

  protected cut(on: boolean): void {
    this.store.set({ cut: on ? this.low() + (this.high() - this.low()) * FIRST_CUT : null });
  }
}
