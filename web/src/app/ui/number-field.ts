import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule, type NgModel } from '@angular/forms';
import { InputNumber } from 'primeng/inputnumber';

/** A number with its unit: taken over on Enter or when the field is left; an emptied field keeps its number. */
@Component({
  selector: 'yb-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputNumber],
  template: `
    <p-inputnumber
      size="small"
      [ngModel]="value()"
      (onBlur)="take(field.value ?? null, model)"
      (keydown.enter)="take(field.value ?? null, model)"
      #field
      #model="ngModel"
      [min]="min()"
      [max]="max()"
      [minFractionDigits]="0"
      [maxFractionDigits]="digits()"
      [suffix]="suffix()"
      locale="en-GB"
      [useGrouping]="false"
      [inputStyle]="{ width: width() + 'px' }"
      [ariaLabel]="label()"
    />
  `,
})
export class NumberField {
  readonly value = input.required<number | null>();
  readonly label = input.required<string>();
  readonly unit = input('');
  readonly digits = input(4);
  readonly width = input(76);
  readonly min = input<number | undefined>();
  readonly max = input<number | undefined>();
  readonly changed = output<number>();
  protected readonly suffix = computed(() =>
    this.unit() && this.unit() !== '°' ? ` ${this.unit()}` : this.unit(),
  );

  protected take(value: number | string | null, model: NgModel): void {
    const number = Number(value);
    // As far as it is shown: a field that is only left has the rounded number in it, which nobody typed.
    const shown = (each: number | null) => each?.toFixed(this.digits());
    if (value !== null && value !== '' && Number.isFinite(number) && shown(number) !== shown(this.value()))
      this.changed.emit(number);
    // The field shows what is, not what was typed: an emptied field, and a change that is only proposed or
    // was refused, show the number that counts.
    setTimeout(() => model.control.setValue(this.value(), { emitViewToModelChange: false }));
  }
}
