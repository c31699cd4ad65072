import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artBounds,
  type BodyTrialAsk,
  bodyTrialPassed,
  bodyTrialSubject,
  bodyTrialText,
  sizeOf,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { HandDriveStore } from '../../../../state/hand-drive';
import { TrialStore } from '../../../../state/trial-store';
import { Choice } from '../../../../ui/choice';
import { type Fact, FactTable } from '../../../../ui/fact-table';
import { NumberField } from '../../../../ui/number-field';
import { SLIP_TROLLEY, TrolleyFields } from '../../../../ui/trolley-fields';

const KINDS = {
  pour: 'Pour balls into it',
  'roll-ball': 'Roll a ball at it',
  'roll-barrel': 'Roll a barrel at it',
  drop: 'Drop it',
  swing: 'Swing a part',
  slide: 'Slide along an edge',
  drive: 'Drive over it',
} as const;
type Kind = keyof typeof KINDS;

const SIDES = ['−y', '+y', '−x', '+x', '−z', '+z'] as const;
const ROUND = 0;
const WAYS = { '+x': [1, 0], '−x': [-1, 0], '+z': [0, 1], '−z': [0, -1] } as const;

/** What moves, tried with the shapes: poured, rolled, dropped, swung, slid, driven. */
@Component({
  selector: 'yb-bodies-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, FactTable, NumberField, TrolleyFields],
  template: `
    @if (document()?.proxies?.length) {
      <section class="panel" data-testid="bodies">
        <h3>With bodies that move</h3>
        <div class="row">
          <yb-choice
            class="wide"
            label="What is tried"
            [options]="kinds()"
            [value]="kind()"
            (chosen)="kind.set($event)"
          />
          @switch (kind()) {
            @case ('pour') {
              <label
                >balls
                <yb-number
                  label="Balls"
                  [min]="1"
                  [max]="500"
                  [value]="balls()"
                  [digits]="0"
                  (changed)="balls.set($event)"
              /></label>
            }
            @case ('roll-ball') {
              <label
                >radius
                <yb-number
                  label="Radius"
                  [min]="0.01"
                  [max]="10"
                  unit="m"
                  [value]="radius()"
                  (changed)="radius.set($event)"
              /></label>
            }
            @case ('roll-barrel') {
              <yb-choice label="Sides" [options]="sides" [value]="side()" (chosen)="side.set($event)" />
              <label
                >radius
                <yb-number
                  label="Radius"
                  [min]="0.01"
                  [max]="10"
                  unit="m"
                  [value]="radius()"
                  (changed)="radius.set($event)"
              /></label>
            }
            @case ('drop') {
              <yb-choice
                label="Side that is down"
                [options]="downs"
                [value]="down()"
                (chosen)="down.set($event)"
              />
            }
            @case ('swing') {
              <yb-choice
                label="Part"
                [options]="hinged()"
                [value]="part()"
                (chosen)="chosenPart.set($event)"
              />
            }
            @case ('slide') {
              <yb-choice
                label="Edge"
                [options]="edges()"
                [value]="edge()"
                (chosen)="chosenEdge.set($event)"
              />
            }
            @case ('drive') {
              <yb-trolley-fields [(trolley)]="trolley" />
            }
          }
          @if (directed()) {
            <yb-choice label="Direction" [options]="ways" [value]="way()" (chosen)="chosenWay.set($event)" />
          }
          <button
            type="button"
            class="act"
            [disabled]="working() || !ask()"
            (click)="run()"
            data-testid="try-body"
          >
            Try
          </button>
          @if (kind() === 'drive') {
            <button type="button" class="act" (click)="driveByKeys()" data-testid="drive-by-keys">
              Drive by keys
            </button>
          }
        </div>
        @if (facts().length) {
          <yb-facts [facts]="facts()" [wraps]="true" />
        }
        @if (outdated()) {
          <p class="faded">What is marked “before” was tried on shapes as they were.</p>
        }
      </section>
    }
  `,
  styles: `
    yb-choice {
      width: 106px;
    }
    .wide {
      width: 150px;
    }
    yb-number {
      width: 72px;
    }
  `,
})
export class BodiesPanel {
  private readonly bench = inject(BenchStore);
  private readonly trials = inject(TrialStore);
  private readonly hand = inject(HandDriveStore);
  protected readonly document = toSignal(this.bench.document$);
  private readonly tried = toSignal(this.trials.bodies$, { initialValue: [] });
  protected readonly working = toSignal(this.trials.working$, { requireSync: true });
  protected readonly kind = signal<Kind>('pour');
  protected readonly balls = signal(100);
  protected readonly radius = signal(0.25);
  protected readonly side = signal<number>(12);
  protected readonly down = signal<(typeof SIDES)[number]>('−y');
  protected readonly chosenPart = signal<string | null>(null);
  protected readonly chosenEdge = signal<string | null>(null);
  protected readonly chosenWay = signal<keyof typeof WAYS | null>(null);
  protected readonly trolley = signal(SLIP_TROLLEY);

  protected readonly sides = [6, 8, 12, 24, ROUND].map((value) => ({
    label: value === ROUND ? 'round' : `${value} sides`,
    value,
  }));
  protected readonly downs = SIDES.map((value) => ({ label: `${value} down`, value }));
  protected readonly ways = (Object.keys(WAYS) as (keyof typeof WAYS)[]).map((value) => ({
    label: `along ${value}`,
    value,
  }));
  protected readonly hinged = computed(() =>
    (this.document()?.nodes ?? []).flatMap(({ id, name, pivot }) =>
      pivot?.hinge ? [{ label: name, value: id }] : [],
    ),
  );
  protected readonly edges = computed(() =>
    (this.document()?.riddenEdges ?? []).map(({ id, name }) => ({ label: name, value: id })),
  );
  /** what there is something to try with */
  protected readonly kinds = computed(() =>
    (Object.keys(KINDS) as Kind[])
      .filter((kind) =>
        kind === 'swing' ? this.hinged().length : kind === 'slide' ? this.edges().length : true,
      )
      .map((value) => ({ label: KINDS[value], value })),
  );
  protected readonly part = computed(() => this.chosenPart() ?? this.hinged()[0]?.value ?? null);
  protected readonly edge = computed(() => this.chosenEdge() ?? this.edges()[0]?.value ?? null);
  protected readonly directed = computed(() => this.kind().startsWith('roll') || this.kind() === 'drive');
  /** along the longer side of the piece, where nobody said otherwise */
  protected readonly way = computed(() => {
    const document = this.document();
    if (this.chosenWay() || !document) return this.chosenWay() ?? '+x';
    const [x, , z] = sizeOf(artBounds(document));
    return x > z ? '+x' : '−z';
  });

  protected readonly ask = computed((): BodyTrialAsk | null => {
    const way = [...WAYS[this.way()]] as [number, number];
    const [part, edge] = [this.part(), this.edge()];
    switch (this.kind()) {
      case 'pour':
        return { kind: 'pour', balls: this.balls() };
      case 'roll-ball':
        return { kind: 'roll', what: 'ball', radius: this.radius(), sides: null, way };
      case 'roll-barrel':
        return { kind: 'roll', what: 'barrel', radius: this.radius(), sides: this.side() || null, way };
      case 'drop':
        return { kind: 'drop', side: this.down(), density: this.bench.document.proxies[0]?.density ?? 700 };
      case 'swing':
        return part === null ? null : { kind: 'swing', part };
      case 'slide':
        return edge === null ? null : { kind: 'slide', edge };
      case 'drive':
        return { kind: 'drive', ...this.trolley(), way };
    }
  });

  protected readonly facts = computed((): Fact[] => {
    const document = this.document();
    if (!document) return [];
    return this.tried().map(({ trial, current }) => {
      const { name, text } = bodyTrialText(trial, document);
      return {
        id: bodyTrialSubject(trial),
        name,
        text: current ? text : `${text} (before)`,
        bad: current && !bodyTrialPassed(trial),
      };
    });
  });
  protected readonly outdated = computed(() => this.tried().some(({ current }) => !current));

  constructor() {
    inject(DestroyRef).onDestroy(() => this.trials.stopPlaying());
  }

  protected driveByKeys(): void {
    void this.hand.begin(this.trolley(), WAYS[this.way()]);
  }

  protected run(): void {
    const ask = this.ask();
    if (ask) void this.trials.tryBody(ask);
  }
}
