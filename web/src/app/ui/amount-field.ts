import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { arithmetic, shownField, type UnitName, UNITS } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Notices } from '../state/notices';
import { shownUnit } from '../state/shown-unit';

/** A length or an angle, with sums: "0.4+0.02" and "12 mm" are taken over on Enter or when the field is left. */
@Component({
  selector: 'yb-amount',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText],
  template: `
    <input
      pInputText
      pSize="small"
      type="text"
      autocomplete="off"
      spellcheck="false"
      class="figures"
      #field
      [value]="shown()"
      [style.width.px]="width()"
      [attr.aria-label]="label()"
      (change)="take()"
    />
  `,
})
export class AmountField {
  readonly value = input.required<number>();
  readonly label = input.required<string>();
  /** of the value: "m", "mm", "°"; lengths are shown and typed in the yard's unit */
  readonly unit = input('m');
  readonly digits = input(4);
  readonly width = input(80);
  readonly changed = output<number>();
  private readonly notices = inject(Notices);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private readonly shownAs = computed(() => shownField(this.unit(), this.digits(), shownUnit()));
  protected readonly shown = computed(() => {
    const { unit, factor, digits } = this.shownAs();
    const value = Number((this.value() * factor).toFixed(digits));
    return `${value || 0}${unit === '°' ? '' : ' '}${unit}`;
  });

  protected take(): void {
    const input = this.field().nativeElement;
    const typed = input.value.replace(/°/g, '');
    const { unit, factor, digits } = this.shownAs();
    const value = arithmetic(typed, { unitMetres: UNITS[unit as UnitName] ?? 1 });
    if (value === null) {
      this.notices.say(`“${typed.trim()}” is no number; type one, or a sum like 0.4+0.02.`, true);
    } else if (value.toFixed(digits) !== (this.value() * factor).toFixed(digits))
      this.changed.emit(value / factor);
    // What is, not what was typed: a change that is refused or held back shows the number that counts.
    setTimeout(() => (input.value = this.shown()));
  }
}
