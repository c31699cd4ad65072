import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule, type NgModel } from '@angular/forms';
import { shownField } from '@yard-brace/core';
import { InputNumber } from 'primeng/inputnumber';
import { shownUnit } from '../state/shown-unit';

/** A number with its unit: taken over on Enter or when the field is left; an emptied field keeps its number. */
@Component({
  selector: 'yb-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputNumber],
  template: `
    <p-inputnumber
      size="small"
      [ngModel]="stands()"
      (onInput)="typing.set(true)"
      (onBlur)="take(field.value ?? null, model)"
      (keydown.enter)="take(field.value ?? null, model)"
      #field
      #model="ngModel"
      [min]="inShown(min())"
      [max]="inShown(max())"
      [minFractionDigits]="0"
      [maxFractionDigits]="shownAs().digits"
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
  protected readonly shownAs = computed(() => shownField(this.unit(), this.digits(), shownUnit()));
  protected readonly shown = computed(() => this.inShown(this.value()));
  protected readonly typing = signal(false);
  /** What the field is given: a number that changes elsewhere waits until what is being typed is taken. */
  protected readonly stands = linkedSignal<{ shown: number | null; typing: boolean }, number | null>({
    source: () => ({ shown: this.shown(), typing: this.typing() }),
    computation: ({ shown, typing }, before) => (typing && before ? before.value : shown),
  });
  protected readonly suffix = computed(() => {
    const { unit } = this.shownAs();
    return unit && unit !== '°' ? ` ${unit}` : unit;
  });

  protected inShown<Value extends number | null | undefined>(value: Value): Value {
    return (typeof value === 'number' ? value * this.shownAs().factor : value) as Value;
  }

  protected take(value: number | string | null, model: NgModel): void {
    this.typing.set(false);
    const number = Number(value);
    const { factor, digits } = this.shownAs();
    // As far as it is shown: a field that is only left has the rounded number in it, which nobody typed.
    const shown = (each: number | null) => each?.toFixed(digits);
    if (value !== null && value !== '' && Number.isFinite(number) && shown(number) !== shown(this.shown()))
      this.changed.emit(number / factor);
    // The field shows what is, not what was typed: an emptied field, and a change that is only proposed or
    // was refused, show the number that counts.
    setTimeout(() => model.control.setValue(this.shown(), { emitViewToModelChange: false }));
  }
}
