import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artBounds,
  type ComingApart,
  countText,
  lengthText,
  type Operation,
  type PieceDocument,
  type SplitToTry,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { cutPlace } from '../../../../state/cut-plane';
import { Operations } from '../../../../state/operations';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { LongTable, type LongColumn, type LongRow } from '../../../../ui/long-table';
import type { Option } from '../../../../ui/choice';
import { Segments } from '../../../../ui/segments';
import { ArtLooks } from '../../../../state/art-looks';
import { Selection } from '../../../../state/selection';
import { Check } from '../../../../ui/check';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';

const DEFAULT_SPECK_METRES = 0.01;

type Looking = 'no' | 'shells' | 'materials';
const LOOKS: readonly Option<Looking>[] = [
  { label: 'nothing', value: 'no' },
  { label: 'shells', value: 'shells' },
  { label: 'materials', value: 'materials' },
];
const COLUMNS: readonly LongColumn[] = [
  { field: 'piece', label: 'Piece', width: '35%' },
  { field: 'faces', label: 'Triangles', figures: true, width: '21%' },
  { field: 'size', label: 'Longest', figures: true, width: '26%' },
  { field: 'note', label: '' },
];

/** A row for each piece and each speck that stays with one, numbered as they are told apart by colour. */
function comingRows({ pieces }: ComingApart, document: PieceDocument): LongRow[] {
  const names = new Map(document.nodes.map(({ id, name }) => [id, name]));
  return pieces.map(({ part, faces, metres, speck }, n) => ({
    id: String(n),
    cells: {
      piece: `${n + 1} of ${names.get(part) ?? ''}`,
      faces: countText(faces),
      size: lengthText(metres),
      note: speck ? 'speck' : '',
    },
    sort: { piece: n, faces, size: metres },
    bad: speck,
  }));
}

/** Parts into more of them: by shell, by material, along the cut. */
@Component({
  selector: 'yb-split-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, LongTable, NumberField, Segments],
  template: `
    <section class="panel">
      <h3>Split {{ chosen.words() }}</h3>
      <div class="row">
        <button type="button" class="act" (click)="propose(splitBy('shells'))" data-testid="split-shells">
          By shell
        </button>
        <span class="labelled"
          >keeping specks below
          <yb-number
            [value]="speckMetres() * 1000"
            (changed)="speckMetres.set($event / 1000)"
            unit="mm"
            label="Smallest shell"
            [min]="0"
            [digits]="1"
            [width]="72"
        /></span>
      </div>
      <div class="row">
        <button type="button" class="act" (click)="propose(splitBy('materials'))">By material</button>
        <button
          type="button"
          class="act"
          [disabled]="!settings().cut"
          (click)="alongCut()"
          [title]="settings().cut ? '' : 'Cut the piece open first (C)'"
        >
          Along the cut
        </button>
        <yb-check [checked]="closing()" (changed)="closing.set($event)">closed</yb-check>
      </div>
      <div class="row">
        <span>Tell apart</span>
        <yb-segments
          label="What would come apart"
          [options]="looks"
          [value]="looking()"
          (chosen)="$event && looking.set($event)"
        />
      </div>
      @if (looking() !== 'no') {
        @if (rows(); as rows) {
          @if (rows.length) {
            <yb-long-table
              [columns]="columns"
              [rows]="rows"
              [current]="current()"
              (chosen)="chooseFaces($event)"
              data-testid="coming-apart"
            />
          } @else {
            <p class="faded">Nothing comes apart.</p>
          }
        } @else {
          <p class="faded" role="status">Looking …</p>
        }
      }
    </section>
  `,
})
export class SplitPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly selection = inject(Selection);
  private readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly document = toSignal(this.bench.document$);
  protected readonly chosen = chosenParts();
  protected readonly speckMetres = signal(DEFAULT_SPECK_METRES);
  protected readonly closing = signal(true);
  protected readonly looks = LOOKS;
  protected readonly columns = COLUMNS;
  protected readonly current = signal<string | null>(null);
  protected readonly looking = signal<Looking>('no');
  private readonly apart = toSignal(inject(ArtLooks).apart$, { requireSync: true });
  protected readonly rows = computed(() => {
    const [apart, document] = [this.apart(), this.document()];
    return apart && document ? comingRows(apart, document) : null;
  });

  constructor() {
    effect(() => {
      const looking = this.looking();
      this.view.set({ apart: looking === 'no' ? null : this.splitBy(looking) });
    });
  }

  protected splitBy(how: 'shells' | 'materials'): SplitToTry {
    const parts = this.chosen.ids();
    return how === 'materials'
      ? { op: 'split-materials', parts }
      : { op: 'split-shells', parts, smallest: this.speckMetres() };
  }

  protected alongCut(): void {
    const { cut } = this.settings();
    if (!cut) return;
    const bounds = artBounds(this.document()!);
    const point = bounds.min.map((v, k) => (v + bounds.max[k]!) / 2) as Vec3;
    point[cut.axis] = cutPlace(cut, bounds);
    const normal: Vec3 = [0, 0, 0];
    normal[cut.axis] = 1;
    this.propose({ op: 'split-plane', parts: this.chosen.ids(), point, normal, close: this.closing() });
  }

  /** The faces of one piece, to be seen or dealt with by themselves. */
  protected chooseFaces(piece: string): void {
    const apart = this.apart();
    this.current.set(piece);
    if (apart)
      this.selection.chooseFaces(
        Uint8Array.from(apart.ofFace, (of) => (of === Number(piece) ? 1 : 0)),
        'only',
      );
  }

  protected propose(operation: Operation): void {
    void this.operations.propose(operation);
  }
}
