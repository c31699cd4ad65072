import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, type Make } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { MakeStore } from '../../../../state/make-store';
import { RunCorrection } from '../../../../state/run-correction';
import { Selection } from '../../../../state/selection';
import { AmountField } from '../../../../ui/amount-field';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { Segments } from '../../../../ui/segments';
import type { ChainAsk } from '../../../../workers/messages';

type Way = Exclude<Make['make'], 'wrap' | 'drawn-chain' | 'break-up'>;

const WAYS: Record<Way, { label: string; name: string; does: string; says: string }> = {
  chain: {
    label: 'Chain',
    name: 'Chain of boxes along a run',
    does: 'Lay a chain along',
    says: 'A chain of boxes along the run.',
  },
  slope: {
    label: 'Slope',
    name: 'Slope of a flight of steps',
    does: 'Make a slope of',
    says: 'A slope in the place of the steps.',
  },
  walls: {
    label: 'Walls',
    name: 'Walls along the border of a floor',
    does: 'Raise walls around',
    says: 'Walls along the border.',
  },
  slab: {
    label: 'Slab',
    name: 'Slab below a floor',
    does: 'Lay a slab below',
    says: 'A slab below the floor.',
  },
  container: {
    label: 'Container',
    name: 'Container: floor and walls',
    does: 'Make a container of',
    says: 'A floor, and walls in a ring.',
  },
  rounds: {
    label: 'Rounds',
    name: 'Rounds on each other: post, pot, buoy',
    does: 'Stack rounds for',
    says: 'Rounds on each other along the axis.',
  },
  vehicle: {
    label: 'Vehicle',
    name: 'Vehicle: one body, a sphere per wheel',
    does: 'Make a vehicle of',
    says: 'One body, and a sphere for each wheel.',
  },
  frame: {
    label: 'Frame',
    name: 'Frame of an opening',
    does: 'Frame the opening in',
    says: 'A frame around the opening.',
  },
  reduced: {
    label: 'Reduced',
    name: 'Reduced copy of the art',
    does: 'Reduce a copy of',
    says: 'A reduced copy of the art.',
  },
  'own-triangles': {
    label: 'Triangles',
    name: 'The art’s own triangles',
    does: 'Take the triangles of',
    says: 'The art’s own triangles as a surface.',
  },
};

/** Shapes that a person would draw for chosen faces: along a run, up a flight, round a floor, about an opening. */
@Component({
  selector: 'yb-make-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Button, Check, Choice, NumberField, Segments],
  template: `
    <section class="panel" data-testid="make">
      <yb-segments
        class="ways rows"
        label="What to make"
        [options]="ways"
        [value]="way()"
        (chosen)="way.set($event ?? way())"
      />
      <p class="faded">{{ name() }}</p>
      <div class="row">
        @switch (way()) {
          @case ('chain') {
            <yb-segments
              label="How many boxes"
              [options]="by"
              [value]="chainBy()"
              (chosen)="chainBy.set($event ?? chainBy())"
            />
            @if (chainBy() === 'count') {
              <yb-number
                [value]="count()"
                label="Boxes"
                [min]="1"
                [max]="256"
                [digits]="0"
                [width]="52"
                (changed)="count.set($event)"
              />
            } @else {
              <yb-amount
                [value]="tolerance()"
                unit="mm"
                [digits]="1"
                label="Off the run at most"
                (changed)="tolerance.set($event)"
              />
            }
            <button type="button" class="quiet-button" [disabled]="correction.working()" (click)="correct()">
              Correct its line …
            </button>
          }
          @case ('walls') {
            <span class="labelled"
              >high <yb-amount [value]="height()" label="Height of the walls" (changed)="height.set($event)"
            /></span>
            <span class="labelled"
              >thick <yb-amount [value]="thickness()" label="Thickness" (changed)="thickness.set($event)"
            /></span>
          }
          @case ('frame') {
            <yb-choice
              class="grow"
              label="Opening"
              [options]="openings()"
              [value]="opening()"
              (chosen)="chosenOpening.set($event)"
              placeholder="No opening"
            />
            <span class="labelled"
              >wide <yb-amount [value]="width()" label="Width of the frame" (changed)="width.set($event)"
            /></span>
          }
          @case ('reduced') {
            <span class="labelled"
              >keep
              <yb-number
                [value]="share()"
                unit="%"
                label="Triangles kept"
                [min]="1"
                [max]="100"
                [digits]="0"
                [width]="58"
                (changed)="share.set($event)"
            /></span>
            <yb-segments
              label="As"
              [options]="forms"
              [value]="reducedAs()"
              (chosen)="reducedAs.set($event ?? reducedAs())"
            />
          }
          @case ('container') {
            @if (!asTheArt()) {
              <span class="labelled"
                >thick <yb-amount [value]="thickness()" label="Thickness" (changed)="thickness.set($event)"
              /></span>
            }
            <span class="labelled"
              >sides when round
              <yb-number
                [value]="sides()"
                label="Sides of a round one"
                [min]="3"
                [max]="64"
                [digits]="0"
                [width]="52"
                (changed)="sides.set($event)"
            /></span>
          }
          @case ('rounds') {
            <span class="labelled"
              >sides
              <yb-number
                [value]="sides()"
                label="Sides of a round one"
                [min]="3"
                [max]="64"
                [digits]="0"
                [width]="52"
                (changed)="sides.set($event)"
            /></span>
            <span class="labelled"
              >rounds at most
              <yb-number
                [value]="rounds()"
                label="Rounds at most"
                [min]="1"
                [max]="64"
                [digits]="0"
                [width]="52"
                (changed)="rounds.set($event)"
            /></span>
          }
          @case ('slab') {
            <span class="labelled"
              >thick <yb-amount [value]="thickness()" label="Thickness" (changed)="thickness.set($event)"
            /></span>
          }
          @default {
            <span class="faded">{{ hint() }}</span>
          }
        }
      </div>
      @if (way() === 'walls') {
        <yb-segments
          label="Where the walls stand"
          [options]="sidesOfWall"
          [value]="side()"
          (chosen)="side.set($event ?? side())"
        />
      }
      <div class="row">
        @if (way() === 'walls') {
          <yb-check class="grow" [checked]="ends()" (changed)="ends.set($event)"
            >also at its short ends</yb-check
          >
        } @else if (way() === 'container') {
          <yb-check class="grow" [checked]="asTheArt()" (changed)="asTheArt.set($event)"
            >as thick as the art</yb-check
          >
        } @else if (way() === 'frame') {
          <yb-check class="grow" [checked]="sill()" (changed)="sill.set($event)">with a sill</yb-check>
        } @else {
          <span class="grow"></span>
        }
        <p-button
          [label]="action()"
          size="small"
          [disabled]="working() || (way() === 'frame' && !opening())"
          (onClick)="propose()"
          data-testid="make-it"
        />
      </div>
    </section>
  `,
})
export class MakePanel {
  private readonly make = inject(MakeStore);
  protected readonly correction = inject(RunCorrection);
  private readonly document = toSignal(inject(BenchStore).document$);
  private readonly faces = toSignal(inject(Selection).faces$, { requireSync: true });
  protected readonly working = toSignal(this.make.working$, { requireSync: true });
  protected readonly ways: Option<Way>[] = (Object.keys(WAYS) as Way[]).map((value) => ({
    label: WAYS[value].label,
    value,
  }));
  protected readonly by: { label: string; value: 'count' | 'tolerance' }[] = [
    { label: 'Count', value: 'count' },
    { label: 'As close as', value: 'tolerance' },
  ];
  protected readonly forms: { label: string; value: 'hulls' | 'surface' }[] = [
    { label: 'Hulls', value: 'hulls' },
    { label: 'Surface', value: 'surface' },
  ];
  protected readonly sidesOfWall: { label: string; value: 'outside' | 'inside' }[] = [
    { label: 'Outside the border', value: 'outside' },
    { label: 'On the floor', value: 'inside' },
  ];
  protected readonly way = signal<Way>('chain');
  protected readonly name = computed(() => WAYS[this.way()].name);
  protected readonly chainBy = signal<'count' | 'tolerance'>('count');
  protected readonly count = signal(12);
  /** millimetres */
  protected readonly tolerance = signal(20);
  protected readonly height = signal(0.5);
  protected readonly thickness = signal(0.1);
  protected readonly width = signal(0.2);
  protected readonly sides = signal(12);
  protected readonly rounds = signal(8);
  /** hundredths of the triangles */
  protected readonly share = signal(20);
  protected readonly reducedAs = signal<'hulls' | 'surface'>('hulls');
  protected readonly side = signal<'outside' | 'inside'>('outside');
  protected readonly sill = signal(false);
  protected readonly ends = signal(false);
  protected readonly asTheArt = signal(true);
  protected readonly chosenOpening = signal<string | null>(null);
  protected readonly openings = computed((): Option<string>[] =>
    (this.document()?.clearances ?? []).map(({ id, name }) => ({ label: name, value: id })),
  );
  protected readonly opening = computed(() => {
    const all = this.openings();
    return all.some(({ value }) => value === this.chosenOpening())
      ? this.chosenOpening()
      : (all[0]?.value ?? null);
  });
  protected readonly hint = computed(() =>
    this.way() === 'slope'
      ? 'Choose its treads and risers, without the railing.'
      : this.way() === 'vehicle'
        ? 'Its wheels are round parts on level axles.'
        : '',
  );
  protected readonly action = computed(() => {
    const faces = this.faces();
    const { does } = WAYS[this.way()];
    if (this.way() === 'frame') return 'Frame the opening';
    if (this.way() === 'vehicle') return 'Make a vehicle of the piece';
    return `${does} ${faces ? counted(faces.count, 'face') : 'the piece'}`;
  });

  protected propose(): void {
    const make = this.wanted();
    if (make) void this.make.propose(make, WAYS[this.way()].says);
  }

  protected correct(): void {
    void this.correction.correct(this.chainAsk());
  }

  private chainAsk(): ChainAsk {
    const count = this.chainBy() === 'count';
    return { count: count ? this.count() : null, tolerance: count ? null : this.tolerance() / 1000 };
  }

  private wanted(): Make | null {
    const { faces } = this.make;
    switch (this.way()) {
      case 'chain':
        return { make: 'chain', faces, ...this.chainAsk() };
      case 'walls':
        return {
          make: 'walls',
          faces,
          height: this.height(),
          thickness: this.thickness(),
          side: this.side(),
          as: 'hulls',
          ends: this.ends(),
        };
      case 'slab':
        return { make: 'slab', faces, thickness: this.thickness() };
      case 'container':
        return {
          make: 'container',
          faces,
          thickness: this.asTheArt() ? null : this.thickness(),
          sides: this.sides(),
        };
      case 'rounds':
        return { make: 'rounds', faces, sides: this.sides(), maxRounds: this.rounds() };
      case 'frame': {
        const clearance = this.opening();
        return clearance ? { make: 'frame', clearance, width: this.width(), sill: this.sill() } : null;
      }
      case 'vehicle':
        return { make: 'vehicle' };
      case 'reduced':
        return { make: 'reduced', faces, share: this.share() / 100, as: this.reducedAs() };
      default:
        return { make: this.way() as 'slope' | 'own-triangles', faces };
    }
  }
}
