import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule, type NgModel } from '@angular/forms';
import { SelectButton } from 'primeng/selectbutton';
import type { Option } from './choice';
import { showAgain } from './show-again';

/** One of a few, all to be seen side by side. */
@Component({
  selector: 'yb-segments',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, SelectButton],
  template: `
    <p-selectbutton
      size="small"
      [options]="items()"
      optionLabel="label"
      optionValue="value"
      [ngModel]="value()"
      (onChange)="take($event.value, model)"
      #model="ngModel"
      [allowEmpty]="allowEmpty()"
      [disabled]="disabled()"
      [fluid]="fluid()"
      role="group"
      [attr.aria-label]="label()"
    />
  `,
  styles: `
    :host {
      display: inline-block;
      max-width: 100%;
    }
  `,
})
export class Segments<T> {
  readonly options = input.required<readonly Option<T>[]>();
  readonly value = input<T | null>(null);
  readonly label = input.required<string>();
  readonly disabled = input(false);
  readonly fluid = input(false);
  /** whether the one that is taken can be let go by a second click, which chooses null */
  readonly allowEmpty = input(false);
  readonly chosen = output<T | null>();
  protected readonly items = computed(() => [...this.options()]);

  protected take(value: T | null, model: NgModel): void {
    this.chosen.emit(value);
    showAgain(model, this.value);
  }
}
