import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { artBounds, type PivotAnchor, pivotPlace, subtract, type Vec3 } from '@yard-brace/core';
import { InputNumber } from 'primeng/inputnumber';
import { placeText } from '../shell/figures';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { stepStyles } from './step-styles';

const ANCHORS: { anchor: PivotAnchor; name: string; use: string }[] = [
  { anchor: 'base-centre', name: 'Base centre', use: 'for what stands on the ground' },
  { anchor: 'centre', name: 'Centre of bounds', use: 'for what is thrown or floats' },
  { anchor: 'origin', name: 'World origin', use: 'for a set that lands as it stood' },
  { anchor: 'as-it-came', name: 'As it came', use: 'where the file had it' },
];

/** Where the piece is grabbed. The geometry stays: only the point it is measured from moves. */
@Component({
  selector: 'yb-pivot-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputNumber, FindingList],
  template: `
    @if (document(); as document) {
      <yb-finding-list step="pivot" />
      <ul class="anchors" role="radiogroup" aria-label="Pivot">
        @for (choice of choices(); track choice.anchor) {
          <li>
            <button
              type="button"
              role="radio"
              [attr.aria-checked]="choice.taken"
              [class.taken]="choice.taken"
              (click)="put(choice.anchor, choice.place)"
            >
              <i></i>
              <span>
                <b>{{ choice.name }},</b>&ngsp;<span class="faded">{{ choice.use }}</span
                ><br /><span class="figures">{{ choice.text }}</span>
              </span>
            </button>
          </li>
        }
      </ul>
      <section>
        <h3>By numbers, metres</h3>
        <div class="numbers">
          @for (axis of axes; track axis; let i = $index) {
            <label>
              <span [class]="'axis ' + axis">{{ axis }}</span>
              <p-inputnumber
                size="small"
                [ngModel]="document.pivot.position[i]"
                (onBlur)="typed(i, field.value ?? null)"
                (keydown.enter)="typed(i, field.value ?? null)"
                #field
                [minFractionDigits]="3"
                [maxFractionDigits]="6"
                locale="en-GB"
                [useGrouping]="false"
                [inputStyle]="{ width: '84px' }"
                [ariaLabel]="'Pivot ' + axis + ' in metres'"
              />
            </label>
          }
        </div>
      </section>
      <p class="faded">
        The geometry does not move. Seen from the pivot the piece reaches from
        <span class="figures">{{ from() }}</span> to <span class="figures">{{ to() }}</span>.
      </p>
    }
  `,
  styles: [
    stepStyles,
    `
      .anchors {
        display: grid;
        gap: 4px;
      }
      .anchors button {
        display: flex;
        gap: 10px;
        width: 100%;
        padding: 5px 10px;
        text-align: left;
        background: none;
        border: 1px solid var(--rule);
        border-radius: var(--corner);
        cursor: pointer;
      }
      .anchors button:hover {
        border-color: var(--faded);
      }
      .anchors .taken {
        border-color: var(--brass);
        background: var(--paper);
      }
      i {
        width: 11px;
        height: 11px;
        margin-top: 4px;
        flex: none;
        border: 1px solid var(--faded);
        border-radius: 50%;
      }
      .taken i {
        background: var(--brass);
        border-color: var(--brass);
      }
      .numbers {
        display: flex;
        justify-content: space-between;
      }
      .axis {
        display: inline-block;
        width: 14px;
        font-weight: 600;
      }
      .x {
        color: #b23a26;
      }
      .y {
        color: #39702f;
      }
      .z {
        color: #2f62b8;
      }
    `,
  ],
})
export class PivotStep {
  private readonly store = inject(BenchStore);
  protected readonly document = toSignal(this.store.document$);
  protected readonly axes = ['x', 'y', 'z'] as const;

  protected readonly choices = computed(() => {
    const document = this.document();
    if (!document) return [];
    return ANCHORS.map((choice) => {
      const place = pivotPlace(document, choice.anchor);
      return { ...choice, place, text: placeText(place), taken: document.pivot.anchor === choice.anchor };
    });
  });

  private readonly reach = computed(() => {
    const document = this.document()!;
    const { min, max } = artBounds(document);
    return { from: subtract(min, document.pivot.position), to: subtract(max, document.pivot.position) };
  });
  protected readonly from = () => placeText(this.reach().from);
  protected readonly to = () => placeText(this.reach().to);

  protected put(anchor: PivotAnchor, position: Vec3): void {
    this.store.apply({ kind: 'set-pivot', anchor, position });
  }

  protected typed(axis: number, value: number | string | null): void {
    const now = this.document()!.pivot.position;
    const number = Number(value);
    if (value === null || !Number.isFinite(number) || Math.abs(number - now[axis]!) < 5e-7) return;
    const position: Vec3 = [...now];
    position[axis] = number;
    this.put('numeric', position);
  }
}
