import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import {
  hingeBetween,
  lengthText,
  normalized,
  type Pivot,
  scaled,
  turnAbout,
  type Vec3,
} from '@yard-brace/core';
import { Slider } from 'primeng/slider';
import { Notices } from '../../../../state/notices';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { ViewMarks } from '../../../../state/view-marks';
import type { Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { Segments } from '../../../../ui/segments';
import { AXES, AxisButtons } from '../proxies/axis-buttons';
import { WhosePivot } from './whose-pivot';

/** How far something slides until other ends are typed: metres. */
const FIRST_SLIDE: [number, number] = [0, 0.5];
const FIRST_OPENS: [number, number] = [0, 90];
const NAMES = ['x', 'y', 'z'] as const;
type Kind = 'turns' | 'slides';

/** A hinge, an axle or a slide: the axis, its range, and a look at how it moves. */
@Component({
  selector: 'yb-hinge-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AxisButtons, FormsModule, NumberField, Segments, Slider],
  template: `
    <section class="panel">
      <h3>Hinge, axle or slide</h3>
      <div class="row">
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="throughRound()"
          data-testid="axle"
        >
          Through a round …
        </button>
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="alongEdge()"
          data-testid="hinge-edge"
        >
          Along an edge …
        </button>
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="throughPoints()"
          data-testid="hinge-points"
        >
          Through two points …
        </button>
      </div>
      <div class="row">
        <span>Through the pivot, along</span>
        <yb-axis-buttons verb="Axis along" (pressed)="along($event)" />
        @if (whose.pivot().hinge) {
          <button type="button" class="act" [disabled]="whose.locked()" (click)="remove()">No axis</button>
        }
      </div>
      @if (whose.pivot().hinge; as hinge) {
        <div class="row">
          <span>Axis</span>
          @for (name of names; track name; let i = $index) {
            <yb-number
              [value]="hinge.axis[i]!"
              [label]="'Axis ' + name"
              [digits]="5"
              [width]="74"
              (changed)="typeAxis(i, $event)"
            />
          }
        </div>
        <div class="row">
          <yb-segments
            label="What it does"
            [options]="kinds"
            [value]="kind()"
            (chosen)="$event && setKind($event)"
          />
          <span>from</span>
          @for (end of [0, 1]; track end) {
            @if (end) {
              <span>to</span>
            }
            <yb-number
              [value]="range()[end]!"
              [unit]="slides() ? 'm' : '°'"
              [label]="end ? 'To' : 'From'"
              [digits]="slides() ? 4 : 2"
              [width]="74"
              (changed)="setEnd(end, $event)"
            />
          }
        </div>
        <div class="row swing" data-testid="swing">
          <span>Try</span>
          <p-slider
            class="grow"
            [min]="range()[0]"
            [max]="range()[1]"
            [step]="slides() ? 0.001 : 1"
            [ngModel]="tried()"
            (ngModelChange)="tryOut($event)"
            ariaLabel="Try the range"
          />
          <span class="figures">{{ triedText() }}</span>
        </div>
        @if (tried() !== 0) {
          <div class="row">
            <button type="button" class="act" (click)="keep()">Keep this pose</button>
            <button type="button" class="quiet-button" (click)="tryOut(0)">Back to 0</button>
          </div>
        }
      }
    </section>
  `,
  styles: `
    .swing {
      gap: 14px;
    }
  `,
})
export class HingePanel {
  protected readonly whose = inject(WhosePivot);
  private readonly marks = inject(ViewMarks);
  private readonly picking = inject(Picking);
  private readonly operations = inject(Operations);
  private readonly notices = inject(Notices);
  private readonly swung = toSignal(this.marks.swing$, { requireSync: true });
  protected readonly names = NAMES;
  protected readonly kinds: readonly Option<Kind>[] = [
    { label: 'turns', value: 'turns' },
    { label: 'slides', value: 'slides' },
  ];
  protected readonly kind = computed((): Kind => (this.slides() ? 'slides' : 'turns'));
  protected readonly slides = computed(() => this.whose.pivot().hinge?.slides ?? null);
  protected readonly range = computed(
    (): readonly [number, number] => this.slides() ?? this.whose.pivot().hinge?.opens ?? FIRST_OPENS,
  );
  /** degrees, or metres for what slides */
  protected readonly tried = computed(() => {
    const swung = this.swung();
    if (!swung || swung.part !== (this.whose.part() ?? '')) return 0;
    return this.slides() ? (swung.metres ?? 0) : swung.degrees;
  });
  protected readonly triedText = computed(() =>
    this.slides() ? lengthText(this.tried()) : `${this.tried()}°`,
  );

  constructor() {
    // A trial ends with the step.
    inject(DestroyRef).onDestroy(() => this.marks.swing(null));
  }

  protected async throughRound(): Promise<void> {
    const picked = await this.picking.ask(
      'Click a bore, a pin, a rim or a tread: the axis runs through its middle.',
    );
    const round = picked?.face === undefined ? null : await this.operations.roundAxis(picked.face);
    if (!round) return;
    this.put({ anchor: 'hinge', position: round.center, axis: round.axis });
    this.notices.say(`Axis of a round of ${lengthText(2 * round.radius)} across.`);
  }

  protected async alongEdge(): Promise<void> {
    const picked = await this.picking.ask('Pick the edge that the hinge runs along.');
    if (!picked) return;
    if (picked.feature) this.between(...picked.feature);
    else
      this.notices.say(
        'There is no edge of the piece there, only one between triangles; pick a crease, a border, or where materials meet.',
        true,
      );
  }

  protected async throughPoints(): Promise<void> {
    const ends = await this.picking.askTwo('Pick one end of the hinge.', 'Pick the other end of the hinge.');
    if (ends) this.between(ends[0].at, ends[1].at);
  }

  protected along(axis: 0 | 1 | 2): void {
    if (!this.whose.locked())
      this.put({
        anchor: this.whose.pivot().anchor,
        position: this.whose.pivot().position,
        axis: [...AXES[axis]],
      });
  }

  protected typeAxis(number: number, value: number): void {
    const { hinge } = this.whose.pivot();
    if (!hinge || this.whose.locked()) return;
    const next: Vec3 = [...hinge.axis];
    next[number] = value;
    const axis = normalized(next);
    if (axis.some((v) => v !== 0)) this.whose.change({ hinge: { ...hinge, axis } }, 'hinge');
  }

  protected setKind(kind: Kind): void {
    const { hinge } = this.whose.pivot();
    if (!hinge) return;
    this.tryOut(0);
    const { slides: _slides, ...turns } = hinge;
    this.whose.change({ hinge: kind === 'slides' ? { ...hinge, slides: FIRST_SLIDE } : turns }, 'hinge');
  }

  /** The first end is never beyond the second. */
  protected setEnd(end: number, value: number): void {
    const { hinge } = this.whose.pivot();
    if (!hinge) return;
    const next = [...this.range()] as [number, number];
    next[end] = value;
    if (next[0] > next[1]) next[1 - end] = value;
    this.whose.change({ hinge: { ...hinge, [this.slides() ? 'slides' : 'opens']: next } }, 'hinge');
  }

  protected remove(): void {
    this.whose.change({ hinge: undefined, anchor: 'numeric' });
  }

  protected tryOut(value: number): void {
    const part = this.whose.part() ?? '';
    if (value === 0) this.marks.swing(null);
    else this.marks.swing(this.slides() ? { part, degrees: 0, metres: value } : { part, degrees: value });
  }

  /** The part stays as it was tried, with all below it and the shapes of these. */
  protected async keep(): Promise<void> {
    const { hinge, position } = this.whose.pivot();
    const [tried, slides, part] = [this.tried(), this.slides(), this.whose.part()];
    if (!hinge || !tried) return;
    this.marks.swing(null);
    await this.operations.propose({
      op: 'move',
      parts: part === null ? [] : [part],
      by: slides ? scaled(hinge.axis, tried) : [0, 0, 0],
      turn: turnAbout(hinge.axis, slides ? 0 : tried),
      about: position,
    });
  }

  private between(a: Vec3, b: Vec3): void {
    const hinge = hingeBetween(a, b);
    if (hinge?.hinge) this.put({ anchor: 'hinge', position: hinge.position, axis: hinge.hinge.axis });
  }

  /** The range stays when an axis is chosen anew. */
  private put({ axis, ...place }: Pick<Pivot, 'anchor' | 'position'> & { axis: Vec3 }): void {
    const { hinge } = this.whose.pivot();
    this.whose.change({ ...place, hinge: { opens: FIRST_OPENS, ...hinge, axis }, cell: undefined }, 'hinge');
  }
}
