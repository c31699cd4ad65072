import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, measuredText, type Seam } from '@yard-brace/core';
import { ArtStore } from '../../../../state/art-store';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { ShelfStore } from '../../../../state/shelf-store';
import { ViewMarks } from '../../../../state/view-marks';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';

/** How far vertices are looked for that should meet. */
const DEFAULT_REACH_MM = 5;
/** So many pairs of a seam are listed; the worst stand first. */
const MAX_PAIRS = 200;
const LEAST_GAP_METRES = 5e-5;

/** Pieces that stand beside this one at their places, and the seams between them, vertex by vertex. */
@Component({
  selector: 'yb-beside-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, NumberField],
  template: `
    <section class="panel">
      <h3>Pieces beside it, at their places</h3>
      <div class="row">
        <yb-choice
          class="grow"
          label="Piece to show beside"
          [options]="others()"
          [value]="null"
          placeholder="another piece"
          (chosen)="add($event)"
        />
        <span class="labelled"
          >seams within
          <yb-number
            [value]="reachMm()"
            (changed)="reachMm.set($event)"
            unit="mm"
            label="Seams within"
            [min]="0.01"
            [max]="1000"
            [digits]="2"
            [width]="70"
        /></span>
      </div>
      @for (piece of shown(); track piece.id) {
        <div class="row" data-testid="beside">
          <b class="grow">{{ piece.name }}</b>
          <span class="faded">{{ piece.says }}</span>
          <button
            type="button"
            class="quiet-button"
            [attr.aria-label]="'Take ' + piece.name + ' away'"
            (click)="takeAway(piece.id)"
          >
            <span class="pi pi-times" aria-hidden="true"></span>
          </button>
        </div>
        @if (piece.pairs.length) {
          <ul class="list seam">
            @for (pair of piece.pairs; track $index) {
              <li>
                <button
                  type="button"
                  class="quiet-button figures"
                  title="Go there"
                  (click)="marks.goTo(pair.at)"
                >
                  {{ pair.says }}
                </button>
              </li>
            }
          </ul>
        }
      } @empty {
        <p class="faded">
          They can be pointed at, snapped to and measured against; nothing of them is delivered.
        </p>
      }
    </section>
  `,
  styles: `
    .seam {
      max-height: 140px;
      overflow-y: auto;
    }
  `,
})
export class BesidePanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  protected readonly marks = inject(ViewMarks);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly document = toSignal(this.bench.document$);
  private readonly yard = toSignal(inject(ShelfStore).yard$, { initialValue: null });
  private readonly ids = toSignal(this.bench.beside$, { requireSync: true });
  private readonly beside = toSignal(inject(ArtStore).beside$, { requireSync: true });
  private readonly seams = signal<readonly (Seam | null)[]>([]);
  protected readonly reachMm = signal(DEFAULT_REACH_MM);
  protected readonly others = computed((): Option<number | null>[] =>
    (this.yard()?.shelf ?? [])
      .filter(({ id }) => id !== this.piece()?.id && !this.ids().includes(id))
      .map(({ id, name }) => ({ label: name, value: id })),
  );
  protected readonly shown = computed(() =>
    this.ids().map((id, i) => {
      const seam = this.seams()[i];
      const open = seam?.pairs.filter(({ apart }) => apart >= LEAST_GAP_METRES) ?? [];
      return {
        id,
        name: this.yard()?.shelf.find((each) => each.id === id)?.name ?? '',
        says: seam ? seamText(seam, open.length) : '',
        pairs: open.slice(0, MAX_PAIRS).map(({ a, gap }) => ({
          at: a,
          says: `${gap < 0 ? 'overlaps' : 'gap'} ${measuredText(Math.abs(gap))}`,
        })),
      };
    }),
  );

  constructor() {
    effect(() => {
      this.document();
      const [beside, reach] = [this.beside(), this.reachMm() / 1000];
      untracked(() => void this.measure(beside, reach));
    });
  }

  protected add(id: number | null): void {
    if (id !== null) this.bench.showBeside([...this.ids(), id]);
  }

  protected takeAway(id: number): void {
    this.bench.showBeside(this.ids().filter((each) => each !== id));
  }

  private async measure(beside: ReturnType<typeof this.beside>, reach: number): Promise<void> {
    const { document } = this.bench;
    const found: (Seam | null)[] = [];
    for (const piece of beside) found.push(await this.operations.seam(piece.document, reach));
    if (document === this.bench.document && beside === this.beside()) this.seams.set(found);
  }
}

/** "8 of 8 vertices meet", "3 of 8 vertices meet, at most 0.4 mm off; 2 have none to meet" */
function seamText({ pairs, unmatched }: Seam, open: number): string {
  const none = unmatched
    ? `; ${counted(unmatched, 'vertex', 'vertices')} near it meet${unmatched === 1 ? 's' : ''} none`
    : '';
  if (pairs.length === 0) return `no seam${none}`;
  const meet = `${pairs.length - open} of ${counted(pairs.length, 'vertex', 'vertices')} meet`;
  return `${meet}${open ? `, at most ${measuredText(pairs[0]!.apart)} off` : ''}${none}`;
}
