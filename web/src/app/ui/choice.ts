import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule, type NgModel } from '@angular/forms';
import { Select } from 'primeng/select';
import { showAgain } from './show-again';

export interface Option<T> {
  label: string;
  value: T;
}

/** Longer lists can be searched, and draw only what is seen of them. */
const SEARCHED_FROM = 20;
const OPTION_PIXELS = 28;

/** One of several, from a list that opens. What it shows is what is, also when a choice was refused. */
@Component({
  selector: 'yb-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Select],
  host: { '[title]': 'shown()' },
  template: `
    <p-select
      size="small"
      [options]="items()"
      optionLabel="label"
      optionValue="value"
      [ngModel]="value()"
      (onChange)="take($event.value, model)"
      #model="ngModel"
      [placeholder]="placeholder()"
      [filter]="long()"
      filterBy="label"
      [virtualScroll]="long()"
      [virtualScrollItemSize]="long() ? itemPixels : undefined"
      [ariaLabel]="label()"
      [ariaFilterLabel]="'Search ' + label()"
      [disabled]="disabled()"
      [style]="{ width: '100%' }"
      appendTo="body"
      [pt]="$any({ overlay: { role: 'region', 'aria-label': label() } })"
      emptyMessage="Nothing to choose from"
      emptyFilterMessage="Nothing has that in its name"
    />
  `,
  styles: `
    :host {
      display: inline-block;
      min-width: 0;
      max-width: 100%;
    }
  `,
})
export class Choice<T> {
  readonly options = input.required<readonly Option<T>[]>();
  readonly value = input<T | null>(null);
  readonly label = input.required<string>();
  readonly placeholder = input('');
  readonly disabled = input(false);
  readonly chosen = output<T>();
  protected readonly items = computed(() => [...this.options()]);
  /** what it shows, whole, where it is too narrow */
  protected readonly shown = computed(
    () => this.options().find(({ value }) => value === this.value())?.label ?? '',
  );
  protected readonly long = computed(() => this.options().length > SEARCHED_FROM);
  protected readonly itemPixels = OPTION_PIXELS;

  protected take(value: T, model: NgModel): void {
    if (value !== this.value()) this.chosen.emit(value);
    showAgain(model, this.value);
  }
}
