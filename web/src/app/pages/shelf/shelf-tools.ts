import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { lengthText, type Stamp, WORKING_STEPS, type WorkingStep } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Choice, type Option } from '../../ui/choice';
import { Segments } from '../../ui/segments';
import { STAMP_WORDS } from '../../ui/stamp';
import { SavedFilters } from './saved-filters';
import { LEFT_STATES, type LeftState, type ShelfFilter, type ShelfOrder } from './shelf-filter';

export type ShelfLook = 'cards' | 'table';

export const LEFT_WORDS: Record<LeftState, string> = {
  never: 'never delivered',
  differs: 'read back differently',
  changed: 'changed since delivery',
  'up to date': 'delivered as it is',
};

/** What of the shelf is shown, how, and in which order. */
@Component({
  selector: 'yb-shelf-tools',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, Choice, SavedFilters, Segments],
  template: `
    <input
      pInputText
      pSize="small"
      type="text"
      placeholder="Filter by name or file"
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
    <yb-choice
      label="Filter by what left"
      [options]="lefts"
      [value]="leftShown()"
      (chosen)="leftAs($event)"
    />
    <yb-choice
      label="Filter by deviation"
      [options]="aparts"
      [value]="filter().apartMetres ?? 0"
      (chosen)="change({ apartMetres: $event || null })"
    />
    <yb-saved-filters [filter]="filter()" (chosen)="filterChange.emit($event)" />
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
  protected readonly lefts: Option<LeftState | 'any'>[] = [
    { label: 'delivered or not', value: 'any' },
    ...LEFT_STATES.map((value) => ({ label: LEFT_WORDS[value], value })),
  ];
  protected readonly aparts: Option<number>[] = [
    { label: 'any deviation', value: 0 },
    ...[0.01, 0.05, 0.25].map((value) => ({ label: `over ${lengthText(value)}`, value })),
  ];
  protected readonly steps: Option<WorkingStep | null>[] = [
    { label: 'in any step', value: null },
    ...WORKING_STEPS.map((value) => ({ label: `in ${value}`, value })),
  ];

  protected leftShown = (): LeftState | 'any' => this.filter().left ?? 'any';

  protected leftAs(left: LeftState | 'any'): void {
    this.change({ left: left === 'any' ? null : left });
  }

  protected change(change: Partial<ShelfFilter>): void {
    this.filterChange.emit({ ...this.filter(), ...change });
  }
}
