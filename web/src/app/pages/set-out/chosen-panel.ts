import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, rotate, sizeOf, subtract, type Vec3 } from '@yard-brace/core';
import { Picking } from '../../state/picking';
import { COPIED_OF, type CopiedOf, SetOutActs } from '../../state/set-out-acts';
import { SetOutPieces } from '../../state/set-out-pieces';
import { SetOutPlaced } from '../../state/set-out-placed';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { AmountField } from '../../ui/amount-field';
import { Choice, type Option } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';

const AXES: Option<0 | 1 | 2>[] = [
  { label: 'upright', value: 1 },
  { label: 'x', value: 0 },
  { label: 'z', value: 2 },
];
const COPIED_NAMES = { place: 'place and turn', turn: 'turn', height: 'height' } as const;
/** Copies that one run makes, at most. */
const MAX_COPIES = 2000;

/** Where what is chosen stands, and what is done with it. */
@Component({
  selector: 'yb-chosen-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Choice, NumberField],
  template: `
    @if (chosen().length) {
      <section class="panel" data-testid="chosen-panel">
        <h3>{{ title() }}</h3>
        @if (locked()) {
          <p class="faded">Locked: nothing moves it until it is unlocked.</p>
        }
        <div class="row">
          @for (axis of axes; track axis) {
            <span class="labelled"
              >{{ 'xyz'[axis] }}
              <yb-amount
                [label]="'xyz'[axis] + ' of the pivot'"
                [value]="first()!.position[axis]!"
                (changed)="moveTo(axis, $event)"
              />
            </span>
          }
        </div>
        <div class="row">
          <button type="button" class="act" (click)="acts.turn(90)" title="A quarter turn to the left (R)">
            +90°
          </button>
          <button type="button" class="act" (click)="acts.turn(-90)" title="A quarter turn to the right">
            −90°
          </button>
          <span class="labelled"
            >turn by
            <yb-amount
              label="Turn by"
              unit="°"
              [value]="0"
              [width]="58"
              (changed)="acts.turn($event, turnAxis())"
          /></span>
          <yb-choice
            class="axis"
            label="Axis of the turn"
            [options]="turnAxes"
            [value]="turnAxis()"
            (chosen)="turnAxis.set($event)"
          />
        </div>
        <div class="row">
          <button
            type="button"
            class="act"
            (click)="byPoints()"
            title="Pick a point of it, then where that is to be (M)"
          >
            Move by points …
          </button>
          <button type="button" class="act" (click)="acts.shift([0, -first()!.position[1], 0])">
            To the ground
          </button>
        </div>
        <div class="row">
          <button type="button" class="act" (click)="copyFrom()">Copy from …</button>
          <yb-choice
            class="copied"
            label="What is copied"
            [options]="copied"
            [value]="copiedOf()"
            (chosen)="copiedOf.set($event)"
          />
        </div>
        <div class="row">
          <button type="button" class="act" (click)="acts.mirror()">Mirror</button>
          @if (mirrored()) {
            <button type="button" class="act" (click)="pieces.makeTrueMirrors()" data-testid="true-mirror">
              Make a true mirrored piece
            </button>
          }
        </div>
        @if (mirrored()) {
          <p class="faded">
            An instance of scale −1: the engine mirrors its shapes. Boxes and rounds stay right; hulls are
            turned inside out by some engines. A true mirrored piece has art and shapes of its own, and
            doubles what is loaded.
          </p>
        }
        <div class="row">
          <span class="labelled"
            >repeat
            <yb-number
              label="Copies"
              [value]="copies()"
              [min]="1"
              [max]="most"
              [digits]="0"
              [width]="46"
              (changed)="copies.set($event)"
            />
            ×</span
          >
          <yb-choice class="way" label="Along" [options]="ways" [value]="way()" (chosen)="way.set($event)" />
          <yb-amount label="Step" [value]="step()" [width]="72" (changed)="typedStep.set($event)" />
          <button type="button" class="act" (click)="repeat()" data-testid="repeat">Repeat</button>
        </div>
        <div class="row">
          @if (chosen().length > 1 && !grouped()) {
            <button type="button" class="act" (click)="acts.group()">Group</button>
          }
          @if (grouped()) {
            <button type="button" class="act" (click)="acts.ungroup()">Ungroup</button>
          }
          <button type="button" class="act" (click)="acts.lock(!locked())">
            {{ locked() ? 'Unlock' : 'Lock' }}
          </button>
          <button
            type="button"
            class="act"
            (click)="acts.dropAtOrigin()"
            title="Its pivot where the piece has it: parts that left apart come together again"
          >
            Drop at the origin
          </button>
          <button type="button" class="act" (click)="acts.delete()">Delete</button>
        </div>
      </section>
    }
  `,
  styles: `
    .axis {
      width: 104px;
    }
    .copied {
      width: 132px;
    }
    .way {
      width: 76px;
    }
  `,
})
export class ChosenPanel {
  protected readonly acts = inject(SetOutActs);
  protected readonly pieces = inject(SetOutPieces);
  private readonly picking = inject(Picking);
  private readonly store = inject(SetOutStore);
  private readonly selection = inject(SetOutSelection);
  private readonly placed = toSignal(inject(SetOutPlaced).placed$, { initialValue: [] });
  private readonly names = toSignal(this.store.names$, { initialValue: new Map<string, string>() });
  private readonly alone = toSignal(this.selection.alone$, { requireSync: true });
  protected readonly chosen = toSignal(this.selection.chosen$, { initialValue: [] });
  protected readonly axes = [0, 1, 2] as const;
  protected readonly turnAxes = AXES;
  protected readonly copied = COPIED_OF.map((value) => ({ label: COPIED_NAMES[value], value }));
  protected readonly copiedOf = signal<CopiedOf>('place');
  protected readonly most = MAX_COPIES;
  protected readonly turnAxis = signal<0 | 1 | 2>(1);
  protected readonly copies = signal(1);
  protected readonly ways: Option<0 | 1 | 2>[] = [
    { label: 'its x', value: 0 },
    { label: 'its z', value: 2 },
    { label: 'up', value: 1 },
  ];
  protected readonly way = signal<0 | 1 | 2>(0);
  protected readonly first = computed(() => this.chosen()[0] ?? null);
  /** of what is chosen; another piece has a length of its own */
  protected readonly typedStep = linkedSignal<string | undefined, number | null>({
    source: () => this.first()?.id,
    computation: () => null,
  });
  protected readonly locked = computed(() => this.chosen().every(({ locked }) => locked));
  protected readonly mirrored = computed(() => this.chosen().some(({ mirrored }) => mirrored));
  protected readonly grouped = computed(() => this.chosen().some(({ group }) => group !== null));
  protected readonly title = computed(() => {
    const [first, ...more] = this.chosen();
    const name = first && this.names().get(first.id);
    if (!first) return '';
    if (this.alone() && first.group !== null) return `${name}, alone out of its group`;
    return more.length ? counted(more.length + 1, 'piece') : name!;
  });
  /** how long the first of them is along the way that is chosen */
  protected readonly step = computed(() => {
    const typed = this.typedStep();
    if (typed !== null) return typed;
    const placed = this.placed().find(({ placement }) => placement.id === this.first()?.id);
    if (!placed) return 1;
    const size = sizeOf(placed.bounds);
    const along = this.along(1).map(Math.abs);
    return along[0]! * size[0] + along[1]! * size[1] + along[2]! * size[2];
  });

  protected moveTo(axis: number, to: number): void {
    const first = this.first();
    if (!first) return;
    const by: Vec3 = [0, 0, 0];
    by[axis] = to - first.position[axis]!;
    this.acts.shift(by);
  }

  protected repeat(): void {
    this.acts.repeat(this.along(this.step()), Math.min(MAX_COPIES, Math.round(this.copies())));
  }

  protected async byPoints(): Promise<void> {
    const two = await this.picking.askTwo('Pick a point of what moves', 'Pick where that point is to be');
    if (two) this.acts.shift(subtract(two[1].at, two[0].at));
  }

  protected async copyFrom(): Promise<void> {
    const what = this.copiedOf();
    const picked = await this.picking.ask(`Pick the piece whose ${COPIED_NAMES[what]} it takes`);
    const other = picked && this.placed().find(({ placement }) => placement.id === picked.part);
    if (other) this.acts.copyFrom(other.placement, what);
  }

  private along(length: number): Vec3 {
    const way: Vec3 = [0, 0, 0];
    way[this.way()] = length;
    const first = this.first();
    return this.way() === 1 || !first ? way : (rotate(first.rotation, way).map(clean) as Vec3);
  }
}

/** What a quarter turn leaves of an exact number. */
const clean = (v: number): number => (Math.abs(v - Math.round(v)) < 1e-12 ? Math.round(v) : v);
