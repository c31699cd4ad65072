import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';

/** Directions of x, y and z. */
export const AXES: readonly [Vec3, Vec3, Vec3] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Three buttons for the three axes, behind the words that say what each does. */
@Component({
  selector: 'yb-axis-buttons',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (name of names; track name; let i = $index) {
      <button
        type="button"
        class="act"
        [attr.aria-label]="verb() + ' ' + name"
        (click)="pressed.emit(axes[i]!)"
      >
        {{ name }}
      </button>
    }
  `,
  styles: `
    :host {
      display: inline-flex;
      gap: 8px;
    }
  `,
})
export class AxisButtons {
  /** "Mirror along": the axis follows */
  readonly verb = input.required<string>();
  readonly pressed = output<0 | 1 | 2>();
  protected readonly names = ['x', 'y', 'z'];
  protected readonly axes = [0, 1, 2] as const;
}
