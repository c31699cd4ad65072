import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { mirrorShape, moveShape, ownFrame, repeatAlong, rotate, scaled } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ShapeEditor } from '../../../../state/shape-editor';
import { NumberField } from '../../../../ui/number-field';
import { AXES, AxisButtons } from './axis-buttons';

/** Copies of the chosen shapes: beside them, on the other side of the pivot, in a row. */
@Component({
  selector: 'yb-shape-copies-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AxisButtons, NumberField],
  template: `
    @if (any()) {
      <section class="panel" data-testid="shape-copies">
        <div class="row">
          <span class="name faded">Copies</span>
          <button type="button" class="act" (click)="duplicate()">Duplicate</button>
        </div>
        <div class="row">
          <span class="name faded">Mirror over the pivot, along</span>
          <yb-axis-buttons verb="Mirror along" (pressed)="mirror($event)" />
        </div>
        <div class="row">
          <yb-number
            [value]="copies()"
            label="Copies"
            [min]="1"
            [max]="200"
            [digits]="0"
            [width]="48"
            (changed)="copies.set($event)"
          />
          <span class="name faded">{{ copies() === 1 ? 'copy' : 'copies' }} side by side, along</span>
          <yb-axis-buttons verb="Repeat along" (pressed)="repeat($event)" />
        </div>
      </section>
    }
  `,
  styles: `
    .name {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class ShapeCopiesPanel {
  private readonly editor = inject(ShapeEditor);
  private readonly bench = inject(BenchStore);
  private readonly chosen = toSignal(this.editor.chosen$, { initialValue: [] });
  protected readonly any = computed(() => this.chosen().length > 0);
  protected readonly copies = signal(1);

  /** A copy stands beside what it was made of, so that it is seen. */
  protected duplicate(): void {
    this.editor.copy((shape) => [moveShape(shape, [ownFrame(shape).size[0], 0, 0])]);
  }

  protected mirror(axis: 0 | 1 | 2): void {
    const point = this.bench.document.pivot.position;
    this.editor.copy((shape) => [mirrorShape(shape, { point, normal: AXES[axis] })]);
  }

  protected repeat(axis: 0 | 1 | 2): void {
    this.editor.copy((shape) => {
      const { rotation, size } = ownFrame(shape);
      return repeatAlong(shape, scaled(rotate(rotation, AXES[axis]), size[axis]), this.copies());
    });
  }
}
