import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { SelectButton } from 'primeng/selectbutton';
import { Slider } from 'primeng/slider';
import { LOOKS_FROM, type LooksFrom, type Switch, ViewSettingsStore } from '../../../state/view-settings';

const FROM: Record<LooksFrom, { label: string; title: string }> = {
  free: { label: 'Free', title: 'Look freely (P)' },
  front: { label: 'Front', title: 'Look from the front (F)' },
  side: { label: 'Side', title: 'Look from the side (S)' },
  top: { label: 'Top', title: 'Look from the top (T)' },
};

type Look = Extract<Switch, 'wire' | 'facing' | 'checker' | 'deviation'> | 'cut';
const LOOKS: { value: Look; label: string; title: string }[] = [
  { value: 'cut', label: 'Cut', title: 'Cut the piece open (C)' },
  { value: 'wire', label: 'Wire', title: 'Wireframe (W)' },
  { value: 'facing', label: 'Facing', title: 'Fronts and backs of faces (B)' },
  { value: 'checker', label: 'Checker', title: 'Checker on the UVs (K)' },
  { value: 'deviation', label: 'Deviation', title: 'How far the proxies lie from the art (D)' },
];

/** The ways of looking at a piece, over the view: the veil, from where, and what is shown. */
@Component({
  selector: 'yb-view-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, SelectButton, Slider],
  template: `
    <span class="veil">
      <span>art</span>
      <p-slider
        [ngModel]="settings().veil * 100"
        (ngModelChange)="view.set({ veil: $event / 100 })"
        [min]="0"
        [max]="100"
        ariaLabel="Veil between art and proxies"
        [style]="{ width: '70px' }"
        data-testid="veil"
      />
      <span>proxies</span>
    </span>
    <p-selectbutton
      size="small"
      [options]="from"
      optionLabel="label"
      optionValue="value"
      [ngModel]="settings().from"
      (ngModelChange)="view.set({ from: $event })"
      [allowEmpty]="false"
      role="group"
      aria-label="Look from"
    >
      <ng-template #item let-option
        ><span [title]="option.title">{{ option.label }}</span></ng-template
      >
    </p-selectbutton>
    <button type="button" class="act" (click)="fit.emit()" title="Fit the piece to the view (Home)">
      Fit
    </button>
    <p-selectbutton
      size="small"
      [multiple]="true"
      [options]="looks"
      optionLabel="label"
      optionValue="value"
      [ngModel]="taken()"
      (ngModelChange)="show($event)"
      role="group"
      aria-label="Show"
    >
      <ng-template #item let-option
        ><span [title]="option.title" [attr.data-testid]="option.value">{{ option.label }}</span></ng-template
      >
    </p-selectbutton>
  `,
  styles: `
    :host {
      position: absolute;
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
export class ViewBar {
  protected readonly view = inject(ViewSettingsStore);
  readonly fit = output();
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly from = LOOKS_FROM.map((value) => ({ value, ...FROM[value] }));
  protected readonly looks = LOOKS;
  protected readonly taken = computed(() => {
    const settings = this.settings();
    return LOOKS.map(({ value }) => value).filter((look) =>
      look === 'cut' ? settings.cut !== null : settings[look],
    );
  });

  protected show(wanted: readonly Look[] | null): void {
    for (const { value } of LOOKS) {
      if (this.taken().includes(value) === !!wanted?.includes(value)) continue;
      if (value === 'cut') this.view.toggleCut();
      else this.view.toggle(value);
    }
  }
}
