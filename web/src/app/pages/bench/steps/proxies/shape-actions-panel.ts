import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  asPrism,
  counted,
  cutShape,
  fromOwn,
  growShape,
  ownFrame,
  ringShape,
  rotate,
  scaled,
  withCorners,
} from '@yard-brace/core';
import { MakeStore } from '../../../../state/make-store';
import { Notices } from '../../../../state/notices';
import { ShapeEditor } from '../../../../state/shape-editor';
import { AmountField } from '../../../../ui/amount-field';
import { NumberField } from '../../../../ui/number-field';
import { AXES, AxisButtons } from './axis-buttons';

/** Shapes that a surface is broken up into, at most. */
const MAX_BROKEN_SHAPES = 32;

/** What is done to the chosen shapes: grown, cut, joined, given a ring, removed. */
@Component({
  selector: 'yb-shape-actions-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, AxisButtons, NumberField],
  template: `
    @if (count()) {
      <section class="panel" data-testid="shape-actions">
        <div class="row">
          @if (count() > 1) {
            <button type="button" class="act" (click)="editor.join()">Join {{ count() }} in a hull</button>
          }
          <button type="button" class="act danger" (click)="editor.remove()">Remove {{ what() }}</button>
        </div>
        <div class="row">
          <span class="faded">Cut in two at</span>
          <yb-number
            [value]="cutAt()"
            unit="%"
            label="Cut at"
            [min]="1"
            [max]="99"
            [digits]="1"
            [width]="62"
            (changed)="cutAt.set($event)"
          />
          <span class="name faded">across</span>
          <yb-axis-buttons verb="Cut across" (pressed)="cut($event)" />
        </div>
        <div class="row">
          <span class="name faded">Grow by</span>
          <yb-amount [value]="grow()" unit="mm" [digits]="1" label="Grow by" (changed)="grow.set($event)" />
          <button type="button" class="act" (click)="growBy(grow())">Grow</button>
          <button type="button" class="act" (click)="growBy(-grow())">Shrink</button>
        </div>
        @if (surface(); as id) {
          <div class="row">
            <span class="name faded">A surface of triangles</span>
            <button type="button" class="act" [disabled]="making()" (click)="breakUp(id)">
              Break up into solids …
            </button>
          </div>
        }
        @if (rounds()) {
          <div class="row">
            <span class="name faded">As a prism of</span>
            <yb-number
              [value]="sides()"
              label="Sides of a round"
              [min]="3"
              [max]="64"
              [digits]="0"
              [width]="48"
              (changed)="sides.set($event)"
            />
            <span class="faded">sides</span>
            <button type="button" class="act" (click)="prism()">Make a prism</button>
          </div>
        }
        @if (mostCorners() > 4) {
          <div class="row">
            <span class="name faded">{{ mostCorners() }} corners; at most</span>
            <yb-number
              [value]="corners()"
              label="Corners at most"
              [min]="4"
              [max]="255"
              [digits]="0"
              [width]="48"
              (changed)="corners.set($event)"
            />
            <button type="button" class="act" (click)="fewerCorners()">Reduce</button>
          </div>
        }
        <div class="row">
          <span class="name faded">Ring at</span>
          <yb-number
            [value]="at()"
            unit="%"
            label="Ring at"
            [min]="1"
            [max]="99"
            [digits]="0"
            [width]="58"
            (changed)="at.set($event)"
          />
          <span class="faded">scaled to</span>
          <yb-number
            [value]="factor()"
            unit="%"
            label="Ring scaled to"
            [min]="1"
            [max]="1000"
            [digits]="0"
            [width]="62"
            (changed)="factor.set($event)"
          />
          <button type="button" class="act" (click)="ring()">
            {{ factor() < 100 ? 'Waist, in two' : 'Belly' }}
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
    .danger {
      color: #a8341f;
    }
  `,
})
export class ShapeActionsPanel {
  protected readonly editor = inject(ShapeEditor);
  private readonly notices = inject(Notices);
  private readonly chosen = toSignal(this.editor.chosen$, { initialValue: [] });
  protected readonly count = computed(() => this.chosen().length);
  protected readonly what = computed(() => (this.count() === 1 ? 'shape' : counted(this.count(), 'shape')));
  /** millimetres */
  protected readonly grow = signal(10);
  /** hundredths of its extent along the axis that is cut across */
  protected readonly cutAt = signal(50);
  /** hundredths of its height, and of its width there */
  protected readonly at = signal(50);
  protected readonly factor = signal(120);

  protected readonly sides = signal(12);
  protected readonly corners = signal(16);
  protected readonly rounds = computed(() => this.chosen().some(({ shape }) => shape.kind === 'cylinder'));
  protected readonly mostCorners = computed(() =>
    Math.max(0, ...this.chosen().map(({ shape }) => (shape.kind === 'hull' ? shape.points.length / 3 : 0))),
  );

  private readonly make = inject(MakeStore);
  protected readonly making = toSignal(this.make.working$, { requireSync: true });
  /** the one chosen shape, when it is a surface */
  protected readonly surface = computed(() => {
    const [first, ...more] = this.chosen();
    return first?.shape.kind === 'surface' && !more.length ? first.id : null;
  });

  protected breakUp(shape: string): void {
    void this.make.propose(
      { make: 'break-up', shape, maxShapes: MAX_BROKEN_SHAPES },
      'Solid shapes in the place of the surface.',
    );
  }

  protected prism(): void {
    this.editor.change((shape) => [asPrism(shape, this.sides()) ?? shape]);
  }

  protected fewerCorners(): void {
    this.editor.change((shape) => [withCorners(shape, this.corners()) ?? shape]);
  }

  protected cut(axis: 0 | 1 | 2): void {
    let whole = 0;
    this.editor.change((shape) => {
      const frame = ownFrame(shape);
      const along = scaled(AXES[axis], (this.cutAt() / 100 - 0.5) * frame.size[axis]);
      const plane = { point: fromOwn(frame, along), normal: rotate(frame.rotation, AXES[axis]) };
      const { below, above } = cutShape(shape, plane);
      if (below && above) return [below, above];
      whole++;
      return [shape];
    });
    if (whole)
      this.notices.say(
        `${counted(whole, 'shape')} would be too thin when cut there, and stayed whole.`,
        true,
      );
  }

  protected growBy(millimetres: number): void {
    let vanishing = 0;
    this.editor.change((shape) => {
      const grown = growShape(shape, millimetres / 1000);
      if (!grown) vanishing++;
      return [grown ?? shape];
    });
    if (vanishing)
      this.notices.say(
        `${counted(vanishing, 'shape')} would vanish, and stayed as ${vanishing === 1 ? 'it was' : 'they were'}; shrink by less.`,
        true,
      );
  }

  protected ring(): void {
    let without = 0;
    this.editor.change((shape) => {
      const ringed = ringShape(shape, {
        at: this.at() / 100,
        factor: this.factor() / 100,
        sides: this.sides(),
      });
      if (!ringed) without++;
      return ringed?.shapes ?? [shape];
    });
    if (without) this.notices.say('A ring lies across a cylinder, a box or a hull, between its ends.', true);
  }
}
