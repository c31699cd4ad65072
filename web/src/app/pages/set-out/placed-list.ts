import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { coordinatesText, countText } from '@yard-brace/core';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { type LongColumn, type LongRow, LongTable } from '../../ui/long-table';

const COLUMNS: LongColumn[] = [
  { field: 'name', label: 'Piece' },
  { field: 'at', label: 'Pivot x, y, z', figures: true, width: '150px' },
];

/** Everything that stands in the set-out: chosen by a click, and gone to. */
@Component({
  selector: 'yb-placed-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LongTable],
  template: `
    <section class="panel" data-testid="placed-list">
      <h3>Placed, {{ count() }}</h3>
      @if (rows().length) {
        <yb-long-table [columns]="columns" [rows]="rows()" [current]="chosen()" (chosen)="choose($event)" />
      } @else {
        <p class="faded">
          Nothing stands here yet. Take a piece from the strip at the left by a click, and click in the plan
          where it is to stand.
        </p>
      }
    </section>
  `,
})
export class PlacedList {
  private readonly selection = inject(SetOutSelection);
  private readonly looks = inject(SetOutLookStore);
  private readonly store = inject(SetOutStore);
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  private readonly names = toSignal(this.store.names$, { initialValue: new Map<string, string>() });
  private readonly all = toSignal(this.selection.chosen$, { initialValue: [] });
  protected readonly columns = COLUMNS;
  protected readonly count = computed(() => countText(this.setOut()?.placements.length ?? 0));
  protected readonly chosen = computed(() => (this.all().length === 1 ? this.all()[0]!.id : ''));
  protected readonly rows = computed((): LongRow[] =>
    (this.setOut()?.placements ?? []).map(({ id, position, group, locked, mirrored }) => {
      const marks = [mirrored ? 'mirrored' : '', group === null ? '' : group, locked ? 'locked' : ''].filter(
        Boolean,
      );
      const name = this.names().get(id) ?? id;
      return {
        id,
        cells: {
          name: marks.length ? `${name} (${marks.join(', ')})` : name,
          at: coordinatesText(position, 2),
        },
      };
    }),
  );

  protected choose(id: string): void {
    this.selection.choose(id);
    this.looks.goTo([id]);
  }
}
