import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { CHOOSE_BY, type ChooseBy } from '../../drawing/face-selection';
import { FacePicker } from '../../state/face-picker';
import { Selection } from '../../state/selection';
import { ViewSettingsStore } from '../../state/view-settings';
import { Check } from '../../ui/check';
import { NumberField } from '../../ui/number-field';
import { Segments } from '../../ui/segments';

const WAYS: Record<ChooseBy, string> = {
  face: 'Face',
  shell: 'Shell',
  flat: 'Flat',
  border: 'Edge',
  material: 'Material',
  box: 'Box',
  lasso: 'Lasso',
};

/** By what clicks in the view choose faces, alike in every step that works on some. */
@Component({
  selector: 'yb-choose-faces',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, NumberField, Segments],
  template: `
    <yb-segments
      class="ways"
      label="Choose faces by"
      [options]="ways"
      [value]="way()"
      [allowEmpty]="true"
      (chosen)="chooseBy($event)"
    />
    <div class="row">
      @switch (settings().chooseBy) {
        @case ('flat') {
          <span class="labelled"
            >up to
            <yb-number
              [value]="settings().flatDegrees"
              (changed)="view.set({ flatDegrees: $event })"
              unit="°"
              label="Angle of a flat region"
              [min]="0"
              [max]="180"
              [digits]="1"
              [width]="58"
          /></span>
        }
        @default {
          @if (settings().chooseBy === 'box' || settings().chooseBy === 'lasso') {
            <yb-check [checked]="settings().through" (changed)="view.set({ through: $event })"
              >through, also what is behind</yb-check
            >
          }
        }
      }
      <span class="gap"></span>
      <button type="button" class="quiet-button" (click)="picker.change('grow')" title="+">Grow</button>
      <button type="button" class="quiet-button" (click)="picker.change('shrink')" title="−">Shrink</button>
      <button type="button" class="quiet-button" (click)="picker.change('invert')" title="I">Invert</button>
    </div>
    @if (!faces()) {
      <p class="faded">
        {{
          settings().choosing
            ? 'Click faces in the view; Shift adds, Alt takes away.'
            : 'Choose a way, then click in the view.'
        }}
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: inherit;
    }
  `,
})
export class ChooseFaces {
  protected readonly view = inject(ViewSettingsStore);
  protected readonly picker = inject(FacePicker);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly faces = toSignal(inject(Selection).faces$, { requireSync: true });
  protected readonly ways = CHOOSE_BY.map((value) => ({ label: WAYS[value], value }));
  protected readonly way = computed(() => (this.settings().choosing ? this.settings().chooseBy : null));

  protected chooseBy(way: ChooseBy | null): void {
    this.view.set(way ? { choosing: true, chooseBy: way } : { choosing: false });
  }
}
