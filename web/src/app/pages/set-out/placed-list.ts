import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { PieceSummary } from '@yard-brace/contract';
import { coordinatesText, countText } from '@yard-brace/core';
import { Notices } from '../../state/notices';
import { SetOutPieces } from '../../state/set-out-pieces';
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
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="files.click()"
          title="Manifests of deliveries (.manifest.json): each piece where it sat before it was moved onto its pivot"
        >
          Put together from manifests …
        </button>
        <input
          #files
          type="file"
          hidden
          multiple
          accept=".json"
          (change)="together(files)"
          data-testid="manifests"
        />
      </div>
    </section>
  `,
})
export class PlacedList {
  readonly pieces = input<readonly PieceSummary[]>([]);
  private readonly others = inject(SetOutPieces);
  private readonly notices = inject(Notices);
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

  protected async together(input: HTMLInputElement): Promise<void> {
    try {
      const files = [...(input.files ?? [])].map(async (file) => ({
        name: file.name,
        text: await file.text(),
      }));
      input.value = '';
      await this.others.putTogether(await Promise.all(files), this.pieces());
      this.looks.goTo([...this.selection.ids]);
    } catch (error) {
      this.notices.error(error);
    }
  }

  protected choose(id: string): void {
    this.selection.choose(id);
    this.looks.goTo([id]);
  }
}
