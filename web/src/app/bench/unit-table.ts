import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { likelyUnit, sizeOf, type UnitName, UNITS } from '@yard-brace/core';
import { sizeText } from '../shell/figures';
import { BenchStore } from './bench-store';
import { stepStyles } from './step-styles';

const UNIT_WORDS: Record<UnitName, string> = {
  m: 'metres',
  cm: 'centimetres',
  mm: 'millimetres',
  in: 'inches',
  ft: 'feet',
};

/** The size the piece would have under each unit; one is taken. */
@Component({
  selector: 'yb-unit-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (document(); as document) {
      <h3>
        {{
          document.unit.stated
            ? 'The format states its unit'
            : document.unit.confirmed
              ? 'Unit of the file, confirmed'
              : 'Unit of the file, to confirm'
        }}
      </h3>
      <table>
        @for (row of units(); track row.unit) {
          <tr [class.taken]="row.taken">
            <td>{{ row.unit }}{{ row.likely ? ', likely: a usual size' : '' }}</td>
            <td class="number figures">{{ row.size }}</td>
            <td class="number">
              @if (row.taken && document.unit.confirmed) {
                <b>taken</b>
              } @else {
                <button
                  type="button"
                  class="quiet-button"
                  [attr.aria-label]="'Read the file in ' + row.words"
                  (click)="store.apply({ kind: 'set-unit', unit: row.unit })"
                >
                  {{ row.taken ? 'Confirm' : 'Take' }}
                </button>
              }
            </td>
          </tr>
        }
      </table>
    }
  `,
  styles: [
    stepStyles,
    `
      :host {
        display: block;
      }
      .taken td {
        font-weight: 600;
      }
    `,
  ],
})
export class UnitTable {
  protected readonly store = inject(BenchStore);
  /** only the unit that the format states, where it states one */
  readonly brief = input(false);
  protected readonly document = toSignal(this.store.document$);
  protected readonly units = computed(() => {
    const document = this.document();
    if (!document) return [];
    const size = sizeOf(document.whole).map((value) => value * document.placing.factor);
    const likely = likelyUnit(Math.max(...size));
    const names =
      this.brief() && document.unit.stated ? [document.unit.name] : (Object.keys(UNITS) as UnitName[]);
    return names.map((unit) => ({
      unit,
      words: UNIT_WORDS[unit],
      likely: !document.unit.stated && unit === likely,
      taken: unit === document.unit.name,
      size: sizeText(size.map((value) => value * UNITS[unit])),
    }));
  });
}
