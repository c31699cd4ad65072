import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import type { Trolley } from '@yard-brace/trial';
import { NumberField } from './number-field';

/** Of the track of a trolley its wheelbase is this much, where nobody says otherwise. */
const WHEELBASE_SHARE = 1.4;

/** The measures of a trolley, in metres. */
@Component({
  selector: 'yb-trolley-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NumberField],
  template: `
    <label
      >track
      <yb-number
        label="Track"
        [min]="0.01"
        [max]="10"
        unit="m"
        [value]="trolley().track"
        (changed)="set({ track: $event, wheelbase: $event * wheelbaseShare })"
    /></label>
    <label
      >wheel
      <yb-number
        label="Wheel radius"
        [min]="0.01"
        [max]="10"
        unit="m"
        [value]="trolley().wheelRadius"
        (changed)="set({ wheelRadius: $event })"
    /></label>
    <label
      >clearance
      <yb-number
        label="Clearance"
        [min]="0.01"
        [max]="10"
        unit="m"
        [value]="trolley().clearance"
        (changed)="set({ clearance: $event })"
    /></label>
  `,
  styles: `
    :host {
      display: contents;
    }
    yb-number {
      width: 72px;
    }
  `,
})
export class TrolleyFields {
  readonly trolley = model.required<Trolley>();
  protected readonly wheelbaseShare = WHEELBASE_SHARE;

  protected set(change: Partial<Trolley>): void {
    this.trolley.set({ ...this.trolley(), ...change });
  }
}

/** A slip trolley, to begin with. */
export const SLIP_TROLLEY: Trolley = {
  track: 0.8,
  wheelbase: 0.8 * WHEELBASE_SHARE,
  wheelRadius: 0.15,
  clearance: 0.12,
};
