import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ownFrame, placeShape, resizeShape, turnShapeAbout, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ShapeEditor } from '../../../../state/shape-editor';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { AmountField } from '../../../../ui/amount-field';
import { degreesOf, turnBetween, turnOfDegrees } from './shape-turn';

/** The one chosen shape by numbers: where it stands, how large it is, how it is turned. */
@Component({
  selector: 'yb-shape-numbers-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField],
  template: `
    @if (frame(); as frame) {
      <section class="panel" data-testid="shape-numbers">
        @for (row of rows(); track row.name) {
          <div class="numbers">
            <span class="name faded">{{ row.name }}</span>
            @for (value of row.values; track $index; let i = $index) {
              <yb-amount
                [value]="value"
                [unit]="row.unit"
                [digits]="row.digits"
                [width]="76"
                [label]="row.name + ' ' + 'xyz'[i]"
                (changed)="take(row.name, i, $event)"
              />
            }
          </div>
        }
        <div class="numbers">
          <span class="name faded">Drags are caught every</span>
          <yb-amount
            [value]="step()"
            [width]="76"
            label="Step of a drag"
            (changed)="view.set({ snapMetres: $event > 0 ? $event : null })"
          />
        </div>
      </section>
    }
  `,
  styles: `
    .numbers {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    .name {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class ShapeNumbersPanel {
  private readonly editor = inject(ShapeEditor);
  private readonly chosen = toSignal(this.editor.chosen$, { initialValue: [] });
  protected readonly view = inject(ViewSettingsStore);
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly piece = toSignal(inject(BenchStore).piece$);
  protected readonly step = computed(
    () => this.settings().snapMetres ?? this.piece()?.yard.rules.gridMetres ?? 0,
  );
  private readonly drag = toSignal(this.editor.drag$, { requireSync: true });
  private readonly shape = computed(() => {
    const [first, ...more] = this.chosen();
    return first && more.length === 0 ? (this.drag()?.shapes.get(first.id) ?? first.shape) : null;
  });
  protected readonly frame = computed(() => {
    const shape = this.shape();
    return shape && ownFrame(shape);
  });
  protected readonly rows = computed(() => {
    const [shape, frame] = [this.shape()!, this.frame()!];
    return [
      { name: 'Position', values: frame.center, unit: 'm', digits: 4 },
      { name: 'Size', values: frame.size, unit: 'm', digits: 4 },
      ...('rotation' in shape
        ? [{ name: 'Rotation', values: degreesOf(shape.rotation), unit: '°', digits: 1 }]
        : []),
    ];
  });

  protected take(row: string, i: number, value: number): void {
    this.editor.change((shape) => {
      const frame = ownFrame(shape);
      if (row === 'Size') return [resizeShape(shape, i as 0 | 1 | 2, value)];
      const next: Vec3 = [...(row === 'Position' ? frame.center : degreesOf(frame.rotation))];
      next[i] = value;
      if (row === 'Position') return [placeShape(shape, next)];
      return [turnShapeAbout(shape, turnBetween(frame.rotation, turnOfDegrees(next)), frame.center)];
    });
  }
}
