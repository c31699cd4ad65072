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
import { arithmetic } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Notices } from '../state/notices';

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
  /** what a number without a unit is in: "m", "mm", "°" */
  readonly unit = input('m');
  readonly digits = input(4);
  readonly width = input(80);
  readonly changed = output<number>();
  private readonly notices = inject(Notices);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly shown = computed(() => {
    const value = Number(this.value().toFixed(this.digits()));
    return `${value || 0}${this.unit() === '°' ? '' : ' '}${this.unit()}`;
  });

  protected take(): void {
    const input = this.field().nativeElement;
    const typed = input.value.replace(/°/g, '');
    const value = arithmetic(typed, { unitMetres: this.unit() === 'mm' ? 0.001 : 1 });
    if (value === null) {
      this.notices.say(`“${typed.trim()}” is no number; type one, or a sum like 0.4+0.02.`, true);
    } else if (value.toFixed(this.digits()) !== this.value().toFixed(this.digits())) this.changed.emit(value);
    // What is, not what was typed: a change that is refused or held back shows the number that counts.
    setTimeout(() => (input.value = this.shown()));
  }
}
