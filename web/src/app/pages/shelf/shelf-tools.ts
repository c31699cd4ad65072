import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { type Stamp, WORKING_STEPS, type WorkingStep } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Choice, type Option } from '../../ui/choice';
import { Segments } from '../../ui/segments';
import { STAMP_WORDS } from '../../ui/stamp';
import type { ShelfFilter, ShelfOrder } from './shelf-filter';

export type ShelfLook = 'cards' | 'table';

/** What of the shelf is shown, how, and in which order. */
@Component({
  selector: 'yb-shelf-tools',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, Choice, Segments],
  template: `
    <input
      pInputText
      pSize="small"
      type="text"
      placeholder="Filter by name"
      aria-label="Filter by name"
      [ngModel]="filter().name"
      (ngModelChange)="change({ name: $event })"
    />
    <yb-choice
      label="Filter by stamp"
      [options]="stamps"
      [value]="filter().stamp"
      (chosen)="change({ stamp: $event })"
      data-testid="filter-stamp"
    />
    @if (filter().stamp) {
      <yb-choice
        label="Filter by step"
        [options]="steps"
        [value]="filter().step"
        (chosen)="change({ step: $event })"
        data-testid="filter-step"
      />
    }
    <yb-segments
      label="Show as"
      [options]="looks"
      [value]="look()"
      (chosen)="lookChange.emit($event ?? look())"
    />
    @if (look() === 'cards') {
      <yb-segments
        label="Order of the shelf"
        [options]="orders"
        [value]="filter().order"
        (chosen)="change({ order: $event ?? 'name' })"
      />
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 10px;
    }
    input {
      width: 150px;
    }
  `,
})
export class ShelfTools {
  readonly filter = input.required<ShelfFilter>();
  readonly look = input.required<ShelfLook>();
  readonly filterChange = output<ShelfFilter>();
  readonly lookChange = output<ShelfLook>();
  protected readonly looks: Option<ShelfLook>[] = [
    { label: 'Cards', value: 'cards' },
    { label: 'Table', value: 'table' },
  ];
  protected readonly orders: Option<ShelfOrder>[] = [
    { label: 'By name', value: 'name' },
    { label: 'By triangles', value: 'triangles' },
    { label: 'Most to do', value: 'open' },
  ];
  protected readonly stamps: Option<Stamp | null>[] = [
    { label: 'any stamp', value: null },
    ...(['stopped', 'look', 'none', 'clear'] as const).map((value) => ({ label: STAMP_WORDS[value], value })),
  ];
  protected readonly steps: Option<WorkingStep | null>[] = [
    { label: 'in any step', value: null },
    ...WORKING_STEPS.map((value) => ({ label: `in ${value}`, value })),
  ];

  protected change(change: Partial<ShelfFilter>): void {
    this.filterChange.emit({ ...this.filter(), ...change });
  }
}
