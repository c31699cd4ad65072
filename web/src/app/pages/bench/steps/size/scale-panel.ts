import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artBounds, baseCentreOf, distance, measuredText, sizeOf } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { artFigures } from '../../../../state/change-figures';
import { Picking } from '../../../../state/picking';
import { Proposals } from '../../../../state/proposals';
import { ShelfStore } from '../../../../state/shelf-store';
import { Check } from '../../../../ui/check';
import { Choice } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { applyEdit, type Edit } from '@yard-brace/core';

const AXES = ['width', 'height', 'depth'] as const;

/** The piece grown or shrunk: by a factor, to a height, by a known length, to another piece's side. */
@Component({
  selector: 'yb-scale-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice, NumberField],
  template: `
    <section class="panel">
      <h3>Scale about the {{ fromPivot() ? 'pivot' : 'base' }}</h3>
      <div class="row">
        <span class="labelled"
          >factor
          <yb-number
            [value]="1"
            (changed)="scale($event)"
            label="Scale factor"
            [min]="0.000001"
            [digits]="6"
            [width]="84"
        /></span>
        <span class="labelled"
          >height
          <yb-number
            [value]="size()[1]!"
            (changed)="scaleTo(1, $event)"
            unit="m"
            label="Target height"
            [min]="0.000001"
            [width]="90"
        /></span>
        <yb-check [checked]="fromPivot()" (changed)="fromPivot.set($event)">about the pivot</yb-check>
      </div>
      <div class="row">
        <button type="button" class="act" (click)="pickLength()" data-testid="known-length">
          Known length …
        </button>
        @if (length(); as known) {
          <span class="figures">{{ measuredText(known) }}</span>
          <span class="labelled"
            >should be
            <yb-number
              [value]="known"
              (changed)="scaleLength(known, $event)"
              unit="m"
              label="What the length should be"
              [min]="0.000001"
              [digits]="5"
              [width]="90"
          /></span>
        }
      </div>
      @if (others().length) {
        <div class="row">
          <span>Match</span>
          <yb-choice label="Side to match" [options]="axes" [value]="axis()" (chosen)="axis.set($event)" />
          <span>of</span>
          <yb-choice
            class="grow"
            label="Piece to match"
            [options]="others()"
            [value]="other()"
            placeholder="a piece"
            (chosen)="other.set($event)"
          />
          <button type="button" class="act" [disabled]="other() === null" (click)="match()">Match</button>
        </div>
      }
    </section>
  `,
})
export class ScalePanel {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly picking = inject(Picking);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly yard = toSignal(inject(ShelfStore).yard$, { initialValue: null });
  protected readonly axes = AXES.map((label, value) => ({ label, value }));
  protected readonly measuredText = measuredText;
  protected readonly fromPivot = signal(false);
  protected readonly length = signal<number | null>(null);
  protected readonly axis = signal(1);
  protected readonly other = signal<number | null>(null);
  protected readonly size = computed(() =>
    this.document() ? sizeOf(artBounds(this.document()!)) : [0, 0, 0],
  );
  private readonly kin = computed(() =>
    (this.yard()?.shelf ?? []).filter(({ id }) => id !== this.piece()?.id),
  );
  protected readonly others = computed(() => this.kin().map(({ id, name }) => ({ label: name, value: id })));

  protected scale(factor: number): void {
    if (!(factor > 0) || factor === 1) return;
    const document = this.document()!;
    const about = this.fromPivot() ? document.pivot.position : baseCentreOf(artBounds(document));
    const edit: Edit = { kind: 'resize', factor, about };
    this.proposals.propose({
      source: 'size',
      title: `The piece is scaled by ${Number(factor.toPrecision(6))}; its ${this.fromPivot() ? 'pivot' : 'base'} stays.`,
      keepLabel: 'Keep the size',
      edit,
      figures: artFigures(document, applyEdit(document, edit)),
    });
  }

  protected scaleTo(axis: number, metres: number): void {
    const now = this.size()[axis]!;
    if (now > 0) this.scale(metres / now);
  }

  protected match(): void {
    const other = this.kin().find(({ id }) => id === this.other());
    if (other) this.scaleTo(this.axis(), other.size[this.axis()]!);
  }

  protected async pickLength(): Promise<void> {
    const ends = await this.picking.askTwo(
      'Pick the first end of the known length.',
      'Pick the other end of the known length.',
    );
    if (ends) this.length.set(distance(ends[0].at, ends[1].at));
  }

  protected scaleLength(known: number, metres: number): void {
    this.scale(metres / known);
    this.length.set(null);
  }
}
