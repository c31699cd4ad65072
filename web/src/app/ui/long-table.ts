import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { TableModule } from 'primeng/table';
import { Check } from './check';

/** A column of a long table: its field, what its heading says, and whether figures stand in it. */
export interface LongColumn {
  field: string;
  label: string;
  figures?: boolean;
  /** CSS width; the columns without one share what is left */
  width?: string;
}

/** A row: an id, what its columns say by their fields, and by what they are sorted where that is not the text. */
export interface LongRow {
  id: string;
  cells: Readonly<Record<string, string>>;
  sort?: Readonly<Record<string, number>>;
  /** something is wrong with it: it stands out, and first when sorted by what is wrong */
  bad?: boolean;
}

const ROW_PIXELS = 28;
/** So many rows are seen at once; the rest is scrolled through. */
const ROWS_SEEN = 8;

/** Rows by the hundred: sorted by any column, drawn only as far as they are seen, one of them chosen by a click. */
@Component({
  selector: 'yb-long-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, TableModule],
  template: `
    <p-table
      [value]="items()"
      size="small"
      dataKey="id"
      [scrollable]="true"
      [scrollHeight]="height()"
      [virtualScroll]="long()"
      [virtualScrollItemSize]="rowPixels"
      [customSort]="true"
      (sortFunction)="sort($event)"
      [tableStyle]="{ 'table-layout': 'fixed' }"
    >
      <ng-template #header>
        <tr>
          @if (checked()) {
            <th scope="col" class="check">
              <span class="sr-only">{{ checkLabel() }}</span>
            </th>
          }
          @for (column of columns(); track column.field) {
            <th
              scope="col"
              [pSortableColumn]="column.field"
              [class.number]="column.figures"
              [style.width]="column.width"
            >
              {{ column.label }}
            </th>
          }
        </tr>
      </ng-template>
      <ng-template #body let-row>
        <tr
          [attr.data-row]="row.id"
          [class.bad]="row.bad"
          [class.current]="row.id === current()"
          [style.height.px]="rowPixels"
        >
          @if (checked(); as checked) {
            <td class="check">
              <yb-check
                [checked]="checked.has(row.id)"
                (changed)="checkedChange.emit({ id: row.id, checked: $event })"
                [label]="checkLabel() + ' ' + row.cells[columns()[0]!.field]"
              />
            </td>
          }
          @for (column of columns(); track column.field; let first = $first) {
            <td
              [class.number]="column.figures"
              [class.figures]="column.figures"
              [title]="row.cells[column.field] ?? ''"
            >
              @if (first) {
                <button type="button" class="quiet-button" (click)="chosen.emit(row.id)">
                  {{ row.cells[column.field] }}
                </button>
              } @else {
                {{ row.cells[column.field] }}
              }
            </td>
          }
        </tr>
      </ng-template>
    </p-table>
  `,
  styles: `
    th {
      white-space: nowrap;
    }
    .check {
      width: 30px;
    }
    .sr-only {
      position: absolute;
      clip-path: inset(50%);
    }
    td {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .number {
      padding-left: 8px;
      text-align: right;
    }
    .quiet-button {
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .bad td {
      color: var(--brass);
    }
    .current td {
      background: var(--paper);
    }
  `,
})
export class LongTable {
  readonly columns = input.required<readonly LongColumn[]>();
  readonly rows = input.required<readonly LongRow[]>();
  readonly current = input<string | null>(null);
  /** ids of the rows that are ticked; null for a table without ticks */
  readonly checked = input<ReadonlySet<string> | null>(null);
  readonly checkLabel = input('');
  readonly checkedChange = output<{ id: string; checked: boolean }>();
  readonly chosen = output<string>();
  protected readonly rowPixels = ROW_PIXELS;
  protected readonly items = computed(() => [...this.rows()]);
  protected readonly long = computed(() => this.rows().length > ROWS_SEEN);
  protected readonly height = computed(() => (this.long() ? `${ROW_PIXELS * (ROWS_SEEN + 1)}px` : undefined));

  protected sort({ data, field, order }: { data?: LongRow[]; field?: string; order?: number }): void {
    if (!data || field === undefined) return;
    const way = order ?? 1;
    data.sort((a, b) => {
      const [x, y] = [a.sort?.[field], b.sort?.[field]];
      if (x !== undefined && y !== undefined) return (x - y) * way;
      return (a.cells[field] ?? '').localeCompare(b.cells[field] ?? '', 'en', { numeric: true }) * way;
    });
  }
}
