import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PieceSummary } from '@yard-brace/contract';
import { countText, lengthText, type Stamp, WORKING_STEPS, type WorkingStep } from '@yard-brace/core';
import { TableModule } from 'primeng/table';
import { Check } from '../../ui/check';
import { momentText } from '../../ui/moment';
import { StampMark } from '../../ui/stamp';
import { leftState } from './shelf-filter';

/** The worst first when a step is sorted by. */
const STAMP_ORDER: Record<Stamp, number> = { stopped: 0, look: 1, none: 2, clear: 3 };

/** A row of the table: the piece with what its columns are sorted by. */
export type ShelfRow = {
  piece: PieceSummary;
  name: string;
  triangles: number;
  shapes: number;
  faults: number;
  deviation: number;
  left: string;
  savedAt: string;
} & {
  [Step in WorkingStep]: number;
};

export const shelfRow = (piece: PieceSummary): ShelfRow => ({
  piece,
  name: piece.name,
  triangles: piece.triangles,
  shapes: piece.shapes,
  faults: piece.faults ?? 0,
  deviation: piece.deviation ?? -1,
  left: leftState(piece),
  savedAt: piece.savedAt,
  ...(Object.fromEntries(WORKING_STEPS.map((step) => [step, STAMP_ORDER[piece.tally[step]]])) as {
    [Step in WorkingStep]: number;
  }),
});

/** The shelf as a table: a column a step with its stamp, sortable by every column. */
@Component({
  selector: 'yb-shelf-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, TableModule, Check, StampMark],
  template: `
    <p-table
      [value]="rows()"
      size="small"
      [scrollable]="true"
      scrollHeight="flex"
      [virtualScroll]="true"
      [virtualScrollItemSize]="32"
      sortField="name"
      [sortOrder]="1"
      [tableStyle]="{ 'min-width': '1010px' }"
    >
      <ng-template #header>
        <tr>
          <th scope="col"><span class="sr-only">Chosen</span></th>
          @for (column of columns; track column.field) {
            <th scope="col" [pSortableColumn]="column.field" [class]="column.kind">
              {{ column.head }} <p-sortIcon [field]="column.field" />
            </th>
          }
        </tr>
      </ng-template>
      <ng-template #body let-row>
        <tr [attr.data-piece]="row.name" style="height: 32px">
          <td>
            <yb-check
              [checked]="chosen().has(row.piece.id)"
              (changed)="choose.emit(row.piece)"
              [label]="'Choose ' + row.name"
            />
          </td>
          <td>
            <a [routerLink]="['/pieces', row.piece.id]">{{ row.name }}</a>
          </td>
          <td class="number figures">{{ countText(row.triangles) }}</td>
          <td class="number figures">{{ countText(row.shapes) }}</td>
          <td class="number figures">{{ countText(row.faults) }}</td>
          <td class="number figures">{{ row.piece.deviation === null ? '–' : lengthText(row.deviation) }}</td>
          @for (step of steps; track step) {
            <td class="stamp"><yb-stamp [stamp]="row.piece.tally[step]" /></td>
          }
          <td [title]="leftText(row.piece)">{{ row.left }}</td>
          <td class="figures">{{ momentText(row.savedAt) }}</td>
        </tr>
      </ng-template>
    </p-table>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    th,
    td {
      white-space: nowrap;
    }
    .number {
      text-align: right;
    }
    .stamp {
      padding-inline: 8px;
      text-align: center;
    }
    td a {
      display: inline-flex;
      align-items: center;
      min-height: 24px;
    }
  `,
})
export class ShelfTable {
  readonly pieces = input.required<readonly PieceSummary[]>();
  readonly chosen = input.required<ReadonlySet<number>>();
  readonly choose = output<PieceSummary>();
  protected readonly rows = computed(() => this.pieces().map(shelfRow));
  protected readonly steps = WORKING_STEPS;
  protected readonly columns = [
    { field: 'name', head: 'Piece', kind: '' },
    { field: 'triangles', head: 'Triangles', kind: 'number' },
    { field: 'shapes', head: 'Shapes', kind: 'number' },
    { field: 'faults', head: 'Faults', kind: 'number' },
    { field: 'deviation', head: 'Deviation', kind: 'number' },
    ...WORKING_STEPS.map((step) => ({
      field: step,
      head: step[0]!.toUpperCase() + step.slice(1),
      kind: 'stamp',
    })),
    { field: 'left', head: 'Delivered', kind: '' },
    { field: 'savedAt', head: 'Saved', kind: '' },
  ];
  /** for each target that it left for */
  protected leftText = ({ delivered }: PieceSummary): string =>
    delivered
      .map(
        ({ target, agreed, changed }) =>
          `${target}: ${agreed ? 'agreed' : 'differs'}${changed ? ', changed since' : ''}`,
      )
      .join('; ');
  protected readonly lengthText = lengthText;
  protected readonly countText = countText;
  protected readonly momentText = momentText;
}
