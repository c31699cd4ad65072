import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artBounds,
  centreOf,
  counted,
  type Isometry,
  mirroredOver,
  ownFrame,
  quatAbout,
  rotate,
  scaled,
  shifted,
  turnedAbout,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { CopiesAlong } from '../../../../state/copies-along';
import { Picking } from '../../../../state/picking';
import { Selection } from '../../../../state/selection';
import { SetFixes } from '../../../../state/set-fixes';
import { ShapeEditor } from '../../../../state/shape-editor';
import { NumberField } from '../../../../ui/number-field';
import { Segments } from '../../../../ui/segments';
import { AXES, AxisButtons } from './axis-buttons';

type About = 'middle' | 'pivot';

/** Copies of the chosen shapes, which follow them: beside them, mirrored, in a row, round an axis. */
@Component({
  selector: 'yb-shape-copies-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AxisButtons, NumberField, Segments],
  template: `
    @if (any()) {
      <section class="panel" data-testid="shape-copies">
        <div class="row">
          <span class="name faded">Copies follow what is done to one</span>
          <button type="button" class="act" (click)="duplicate()">Duplicate</button>
          @if (linked()) {
            <button type="button" class="act" (click)="editor.unlink()">Unlink</button>
          }
        </div>
        <div class="row">
          <span class="faded">About the</span>
          <yb-segments
            label="Copies about"
            [options]="abouts"
            [value]="about()"
            (chosen)="about.set($event ?? about())"
          />
        </div>
        <div class="row">
          <span class="name faded">Mirror along</span>
          <yb-axis-buttons verb="Mirror along" (pressed)="mirror($event)" />
          <button
            type="button"
            class="act"
            title="Over the plane of a face that is clicked in the view"
            (click)="mirrorOverPicked()"
          >
            Over a face …
          </button>
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
        <div class="row">
          <span class="name faded">as many round the full circle, about</span>
          <yb-axis-buttons verb="Repeat about" (pressed)="round($event)" />
        </div>
        @if (faces(); as faces) {
          <div class="row">
            <span class="name faded">as many along the run of {{ faces }}</span>
            <button type="button" class="act" [disabled]="along.working()" (click)="alongRun()">
              Along the run
            </button>
          </div>
        }
        <div class="row">
          <button type="button" class="act" [disabled]="fixing()" (click)="refit()">
            Refit each to its own art …
          </button>
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
  protected readonly editor = inject(ShapeEditor);
  private readonly bench = inject(BenchStore);
  private readonly fixes = inject(SetFixes);
  protected readonly along = inject(CopiesAlong);
  private readonly picking = inject(Picking);
  private readonly chosenFaces = toSignal(inject(Selection).faces$, { requireSync: true });
  protected readonly faces = computed(() => {
    const faces = this.chosenFaces();
    return faces && counted(faces.count, 'face');
  });
  private readonly chosen = toSignal(this.editor.chosen$, { initialValue: [] });
  protected readonly fixing = toSignal(this.fixes.working$, { requireSync: true });
  protected readonly any = computed(() => this.chosen().length > 0);
  protected readonly linked = computed(() => this.chosen().some(({ link }) => link));
  protected readonly copies = signal(1);
  protected readonly about = signal<About>('middle');
  protected readonly abouts: { label: string; value: About }[] = [
    { label: 'Middle of the piece', value: 'middle' },
    { label: 'Pivot', value: 'pivot' },
  ];

  private get point(): Vec3 {
    const { document } = this.bench;
    return this.about() === 'pivot' ? document.pivot.position : centreOf(artBounds(document));
  }

  /** The first chosen shape says how far a step is. */
  private step(axis: 0 | 1 | 2): Vec3 {
    const { rotation, size } = ownFrame(this.chosen()[0]!.shape);
    return scaled(rotate(rotation, AXES[axis]), size[axis]);
  }

  /** A copy stands beside what it was made of, so that it is seen. */
  protected duplicate(): void {
    this.editor.copyLinked([shifted(this.step(0))]);
  }

  protected mirror(axis: 0 | 1 | 2): void {
    this.editor.copyLinked([mirroredOver({ point: this.point, normal: AXES[axis] })], { keep: true });
  }

  protected async mirrorOverPicked(): Promise<void> {
    const picked = await this.picking.ask('Click the face to mirror over.');
    if (picked)
      this.editor.copyLinked([mirroredOver({ point: picked.at, normal: picked.normal })], { keep: true });
  }

  protected alongRun(): void {
    void this.along.copy(this.copies());
  }

  protected repeat(axis: 0 | 1 | 2): void {
    const step = this.step(axis);
    this.editor.copyLinked(this.each((i) => shifted(scaled(step, i))));
  }

  protected round(axis: 0 | 1 | 2): void {
    const turn = (2 * Math.PI) / (this.copies() + 1);
    this.editor.copyLinked(this.each((i) => turnedAbout(this.point, quatAbout(AXES[axis], turn * i))));
  }

  protected refit(): void {
    void this.fixes.propose({ fix: 'refit', shapes: this.chosen().map(({ id }) => id) });
  }

  private each(place: (number: number) => Isometry): Isometry[] {
    return Array.from({ length: this.copies() }, (_, i) => place(i + 1));
  }
}
