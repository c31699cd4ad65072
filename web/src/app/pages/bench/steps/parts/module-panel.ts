import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  boundsOfParts,
  dot,
  lengthText,
  MAX_COPIES,
  MAX_DIVISIONS,
  type OperationOf,
  scaled,
  sizeOf,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { AmountField } from '../../../../ui/amount-field';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { Segments } from '../../../../ui/segments';
import { AXES } from '../proxies/axis-buttons';
import { chosenParts } from './chosen-parts';

type Act = 'cut' | 'repeat' | 'bend' | 'stretch' | 'line';
type Held = 'from' | 'to';

const ACTS: readonly Option<Act>[] = [
  { label: 'Cut', value: 'cut' },
  { label: 'Repeat', value: 'repeat' },
  { label: 'Bend', value: 'bend' },
  { label: 'Stretch', value: 'stretch' },
  { label: 'Along a line', value: 'line' },
];
const DIRECTIONS: readonly Option<0 | 1 | 2>[] = [
  { label: 'X', value: 0 },
  { label: 'Y', value: 1 },
  { label: 'Z', value: 2 },
];
const HELD: readonly Option<Held>[] = [
  { label: 'the end it begins with', value: 'from' },
  { label: 'the other end', value: 'to' },
];
/** Between these shares of its length a module is stretched, until other places are typed. */
const STRETCHED_FROM = 0.25;
const STRETCHED_TO = 0.75;

/** A straight module cut, repeated, bent, stretched, or laid along a line; its shapes go with it. */
@Component({
  selector: 'yb-module-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Check, Choice, NumberField, Segments],
  template: `
    <section class="panel">
      <h3>Module: {{ chosen.none() ? 'the piece' : chosen.words() }}</h3>
      <div class="row">
        <span>runs along</span>
        <yb-segments
          label="The module runs along"
          [options]="directions"
          [value]="axis()"
          (chosen)="$event !== null && axis.set($event)"
        />
        <span class="faded figures">{{ reachText() }}</span>
      </div>
      <yb-segments
        class="ways"
        label="What is done to the module"
        [options]="acts"
        [value]="act()"
        (chosen)="$event && act.set($event)"
      />
      @switch (act()) {
        @case ('cut') {
          <div class="row">
            <span>at</span>
            <yb-amount [value]="at()" label="Cut at" [width]="90" (changed)="at.set($event)" />
            <span class="faded">from the pivot</span>
            <button type="button" class="act" (click)="pickCut()">Pick where …</button>
            <yb-check [checked]="closed()" (changed)="closed.set($event)">closed</yb-check>
          </div>
          <div class="row">
            <button type="button" class="act" (click)="trim(1)" data-testid="cut-beyond">
              Cut off beyond
            </button>
            <button type="button" class="act" (click)="trim(-1)">Cut off before</button>
            <button type="button" class="act" (click)="divide()">Divide there</button>
          </div>
        }
        @case ('repeat') {
          <div class="row">
            <yb-number
              [value]="count()"
              (changed)="count.set(whole($event, 2, maxCopies))"
              label="Copies in a row"
              [min]="2"
              [max]="maxCopies"
              [digits]="0"
              [width]="58"
            />
            <span>in a row, every</span>
            <yb-amount
              [value]="step()"
              label="Step of the copies"
              [width]="90"
              (changed)="step.set($event)"
            />
            <span>in all</span>
            <yb-amount
              [value]="step() * count()"
              label="Length of the row"
              [width]="90"
              (changed)="fillLength($event)"
            />
          </div>
          <div class="row">
            <yb-check [checked]="asOne()" (changed)="asOne.set($event)">as one</yb-check>
            <button type="button" class="act" (click)="repeat()" data-testid="repeat">Repeat</button>
          </div>
        }
        @case ('bend') {
          <div class="row">
            <span>by</span>
            <yb-number
              [value]="degrees()"
              (changed)="degrees.set($event)"
              unit="°"
              label="Bend by"
              [min]="-360"
              [max]="360"
              [digits]="2"
              [width]="70"
            />
            <span>in</span>
            <yb-number
              [value]="divisions()"
              (changed)="divisions.set(whole($event, 1, maxDivisions))"
              label="Divisions of the bend"
              [min]="1"
              [max]="maxDivisions"
              [digits]="0"
              [width]="58"
            />
            <span>divisions</span>
          </div>
          <div class="row">
            <span>held at</span>
            <yb-choice
              class="grow"
              label="Held at"
              [options]="ends"
              [value]="held()"
              (chosen)="held.set($event)"
            />
            <button type="button" class="act" (click)="bend()" data-testid="bend">Bend</button>
          </div>
        }
        @case ('stretch') {
          <div class="row">
            <span>between</span>
            <yb-amount [value]="from()" label="Stretched from" [width]="84" (changed)="from.set($event)" />
            <span>and</span>
            <yb-amount [value]="to()" label="Stretched to" [width]="84" (changed)="to.set($event)" />
            <span>whole length</span>
            <yb-amount
              [value]="reach()[1] - reach()[0]"
              label="Whole length"
              [width]="90"
              (changed)="stretch($event)"
            />
          </div>
          <div class="row">
            <span>held at</span>
            <yb-choice
              class="grow"
              label="Held at"
              [options]="ends"
              [value]="held()"
              (chosen)="held.set($event)"
            />
          </div>
        }
        @case ('line') {
          <div class="row">
            <button type="button" class="act" (click)="pickLine()">Pick points of the line …</button>
            <span class="faded">{{ lineText() }}</span>
            <button type="button" class="act" [disabled]="line().length < 2" (click)="layAlong()">
              Lay along it
            </button>
          </div>
        }
      }
    </section>
  `,
})
export class ModulePanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly picking = inject(Picking);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  protected readonly chosen = chosenParts();
  protected readonly acts = ACTS;
  protected readonly directions = DIRECTIONS;
  protected readonly ends = HELD;
  protected readonly maxCopies = MAX_COPIES;
  protected readonly maxDivisions = MAX_DIVISIONS;
  /** choices belong to one piece */
  private readonly pieceId = computed(() => this.piece()?.id);
  protected readonly act = signal<Act>('cut');
  private readonly bounds = computed(() => {
    const document = this.document();
    return document ? boundsOfParts(document, this.chosen.ids()) : null;
  });
  /** the longer level side, until another one is taken */
  protected readonly axis = linkedSignal<number | undefined, 0 | 1 | 2>({
    source: this.pieceId,
    computation: () => {
      // What is cut shorter than it is deep still runs as it ran.
      const bounds = untracked(this.bounds);
      const [x, , z] = bounds ? sizeOf(bounds) : [1, 0, 0];
      return z! > x! ? 2 : 0;
    },
  });
  private readonly origin = computed((): Vec3 => this.document()?.pivot.position ?? [0, 0, 0]);
  /** where it begins and ends along its direction, from the pivot */
  protected readonly reach = computed((): [number, number] => {
    const [bounds, axis] = [this.bounds(), this.axis()];
    if (!bounds) return [0, 0];
    return [bounds.min[axis] - this.origin()[axis]!, bounds.max[axis] - this.origin()[axis]!];
  });
  protected readonly reachText = computed(() => {
    const [from, to] = this.reach();
    return `${lengthText(from)} to ${lengthText(to)} from the pivot`;
  });
  private readonly between = (share: number) => {
    const [from, to] = this.reach();
    return from + (to - from) * share;
  };
  protected readonly at = linkedSignal(() => this.between(0.5));
  protected readonly closed = signal(true);
  protected readonly count = signal(3);
  protected readonly step = linkedSignal(() => this.reach()[1] - this.reach()[0]);
  protected readonly asOne = signal(false);
  protected readonly degrees = signal(90);
  protected readonly divisions = signal(8);
  protected readonly held = signal<Held>('from');
  protected readonly from = linkedSignal(() => this.between(STRETCHED_FROM));
  protected readonly to = linkedSignal(() => this.between(STRETCHED_TO));
  protected readonly line = linkedSignal<number | undefined, readonly Vec3[]>({
    source: this.pieceId,
    computation: () => [],
  });
  protected readonly lineText = computed(() =>
    this.line().length ? `${this.line().length} points` : 'on the piece, on one beside it, or on the ground',
  );

  protected whole = (value: number, least: number, most: number): number =>
    Math.min(most, Math.max(least, Math.round(value)));

  protected async pickCut(): Promise<void> {
    const picked = await this.picking.ask(
      'Pick where it is cut: on the piece, on one beside it, or on the ground.',
      {
        ground: true,
      },
    );
    if (picked) this.at.set(dot(subtract(picked.at, this.origin()), AXES[this.axis()]));
  }

  /** @param way 1 for what lies beyond the place, -1 for what lies before it */
  protected trim(way: 1 | -1): void {
    const { point, normal } = this.plane();
    this.propose({
      op: 'trim',
      parts: this.chosen.ids(),
      point,
      normal: normal.map((v) => v * way + 0) as Vec3,
      close: this.closed(),
    });
  }

  protected divide(): void {
    this.propose({ op: 'split-plane', parts: this.chosen.ids(), ...this.plane(), close: this.closed() });
  }

  protected repeat(): void {
    const step = scaled(AXES[this.axis()], this.step());
    this.propose({ op: 'repeat', parts: this.chosen.ids(), count: this.count(), step, asOne: this.asOne() });
  }

  /** As many as a length takes at this step. */
  protected fillLength(metres: number): void {
    if (this.step() > 0) this.count.set(this.whole(metres / this.step(), 2, MAX_COPIES));
  }

  protected bend(): void {
    const [from, to] = this.reach();
    this.propose({
      op: 'bend',
      parts: this.chosen.ids(),
      module: this.module(from, to),
      degrees: this.degrees(),
      divisions: this.divisions(),
      held: this.held(),
    });
  }

  /** What the ends take stays; the rest of the length is that of the middle. */
  protected stretch(wholeMetres: number): void {
    const [start, end] = this.reach();
    const metres = this.to() - this.from() + wholeMetres - (end - start);
    if (metres > 0)
      this.propose({
        op: 'stretch',
        parts: this.chosen.ids(),
        module: this.module(this.from(), this.to()),
        metres,
        held: this.held(),
      });
  }

  protected async pickLine(): Promise<void> {
    const points: Vec3[] = [];
    for (;;) {
      const next = points.length
        ? 'Pick the next point, or press Escape when the line ends.'
        : 'Pick where the line begins.';
      const picked = await this.picking.ask(next, { ground: true });
      if (!picked) break;
      points.push(picked.at);
      this.line.set([...points]);
    }
  }

  protected layAlong(): void {
    const [from, to] = this.reach();
    this.propose({
      op: 'lay-along',
      parts: this.chosen.ids(),
      module: this.module(from, to),
      line: [...this.line()],
    });
  }

  private module = (from: number, to: number): OperationOf<'bend'>['module'] => ({
    origin: this.origin(),
    along: [...AXES[this.axis()]],
    from,
    to,
  });

  private plane(): OperationOf<'mirror'>['plane'] {
    const point: Vec3 = [...this.origin()];
    point[this.axis()]! += this.at();
    return { point, normal: [...AXES[this.axis()]] };
  }

  private propose(operation: Parameters<Operations['propose']>[0]): void {
    void this.operations.propose(operation);
  }
}
