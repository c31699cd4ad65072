import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { likelyUnit, sizeOf, sizeText, type UnitName, UNITS } from '@yard-brace/core';
import { TableModule } from 'primeng/table';
import { BenchStore } from '../../../../state/bench-store';

const UNIT_WORDS: Record<UnitName, string> = {
  m: 'metres',
  cm: 'centimetres',
  mm: 'millimetres',
  in: 'inches',
  ft: 'feet',
};

/** The size the piece would have under each unit; one is taken. */
@Component({
  selector: 'yb-unit-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TableModule],
  template: `
    <section class="panel">
      <h3>{{ heading() }}</h3>
      <p-table [value]="units()" size="small">
        <ng-template #body let-row>
          <tr [class.taken]="row.taken" [attr.data-unit]="row.unit">
            <td class="unit">{{ row.unit }}</td>
            <td class="figures">{{ row.size }}</td>
            <td>{{ row.likely ? 'likely' : '' }}</td>
            <td class="end">
              @if (row.taken && confirmed()) {
                <b>taken</b>
              } @else {
                <button
                  type="button"
                  class="quiet-button"
                  [attr.aria-label]="(row.taken ? 'Confirm' : 'Take') + ', read the file in ' + row.words"
                  (click)="bench.apply({ kind: 'set-unit', unit: row.unit })"
                >
                  {{ row.taken ? 'Confirm' : 'Take' }}
                </button>
              }
            </td>
          </tr>
        </ng-template>
      </p-table>
    </section>
  `,
  styles: `
    td {
      white-space: nowrap;
    }
    .unit {
      width: 32px;
    }
    .end {
      text-align: right;
    }
    .taken td {
      font-weight: 600;
    }
  `,
})
export class UnitPanel {
  protected readonly bench = inject(BenchStore);
  /** only the unit that the format states, where it states one */
  readonly brief = input(false);
  private readonly document = toSignal(this.bench.document$);
  protected readonly confirmed = computed(() => this.document()?.unit.confirmed ?? false);
  protected readonly heading = computed(() => {
    const unit = this.document()?.unit;
    if (unit?.stated) return 'The format states its unit';
    return unit?.confirmed ? 'Unit of the file, confirmed' : 'Unit of the file, to confirm';
  });
  protected readonly units = computed(() => {
    const document = this.document();
    if (!document) return [];
    const size = sizeOf(document.whole).map((value) => value * document.placing.factor);
    const likely = likelyUnit(Math.max(...size));
    const { name, stated } = document.unit;
    const names = this.brief() && stated ? [name] : (Object.keys(UNITS) as UnitName[]);
    return names.map((unit) => ({
      unit,
      words: UNIT_WORDS[unit],
      likely: !stated && unit === likely,
      taken: unit === name,
      size: sizeText(size.map((value) => value * UNITS[unit])),
    }));
  });
}
