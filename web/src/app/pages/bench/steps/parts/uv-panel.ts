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
import { artKey, type UvReport } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { type UvPaint, ViewSettingsStore } from '../../../../state/view-settings';
import { Choice, type Option } from '../../../../ui/choice';
import { LongTable } from '../../../../ui/long-table';
import { chosenParts } from './chosen-parts';
import { UV_COLUMNS, uvRows } from './uv-facts';

type Painted = 'none' | 'checker' | UvPaint;

const PAINTS: readonly Option<Painted>[] = [
  { label: 'nothing', value: 'none' },
  { label: 'a checker', value: 'checker' },
  { label: 'density', value: 'density' },
  { label: 'stretch', value: 'stretch' },
];

/** How every UV set of every part lies, and what of it is painted on the piece. */
@Component({
  selector: 'yb-uv-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, LongTable],
  template: `
    <section class="panel">
      <h3>UV sets, against {{ wanted().texture }} pixels a metre, baked light {{ wanted().baked }}</h3>
      @if (rows().length) {
        <yb-long-table [columns]="columns" [rows]="rows()" [current]="current()" (chosen)="choose($event)" />
        @if (currentNote(); as note) {
          <p data-testid="uv-note">{{ note }}</p>
        }
        <p class="faded">
          Density: pixels a metre; metres a picture where there is none; for baked light the picture that it
          needs.
        </p>
      } @else {
        <p class="faded" role="status">Measuring …</p>
      }
      <div class="row">
        <span>Paint</span>
        <yb-choice
          class="grow"
          label="What is painted on the piece"
          [options]="paints"
          [value]="painted()"
          (chosen)="paint($event)"
        />
        <span>of</span>
        <yb-choice
          label="UV set that is painted"
          [options]="sets()"
          [value]="set()"
          (chosen)="takeSet($event)"
        />
      </div>
    </section>
  `,
})
export class UvPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly view = inject(ViewSettingsStore);
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly chosen = chosenParts();
  protected readonly columns = UV_COLUMNS;
  protected readonly paints = PAINTS;
  protected readonly set = computed(() => this.settings().checkerSet);
  protected readonly current = computed(() => {
    const [part] = this.chosen.ids();
    return part === undefined ? null : `${part} ${this.set()}`;
  });
  private readonly reports = signal<readonly UvReport[]>([]);
  protected readonly wanted = computed(() => {
    const rules = this.piece()?.yard.rules;
    return { texture: rules?.pixelsPerMetre ?? 0, baked: rules?.bakedPixelsPerMetre ?? 0 };
  });
  protected readonly rows = computed(() => {
    const document = this.document();
    return document ? uvRows(this.reports(), document, this.wanted()) : [];
  });
  protected readonly currentNote = computed(() => {
    const row = this.rows().find(({ id }) => id === this.current());
    return row && `${row.cells['part']}, set ${row.cells['set']}: ${row.cells['fault']}`;
  });
  protected readonly sets = computed((): Option<number>[] => {
    const most = Math.max(1, ...this.reports().map(({ sets }) => sets.length));
    return Array.from({ length: most }, (_, value) => ({ label: `set ${value + 1}`, value }));
  });
  protected readonly painted = computed((): Painted => {
    const { uvPaint, checker } = this.settings();
    return uvPaint?.what ?? (checker ? 'checker' : 'none');
  });
  private readonly art = computed(() => (this.document() ? artKey(this.document()!) : ''));

  constructor() {
    effect(() => {
      const art = this.art();
      if (art) untracked(() => void this.measure(art));
    });
  }

  protected choose(id: string): void {
    const [part, set] = id.split(' ') as [string, string];
    this.chosen.choose([part]);
    this.takeSet(Number(set));
  }

  protected takeSet(set: number): void {
    const { uvPaint } = this.settings();
    this.view.set({ checkerSet: set, ...(uvPaint ? { uvPaint: { ...uvPaint, set } } : {}) });
  }

  protected paint(what: Painted): void {
    this.view.set({
      checker: what === 'checker',
      uvPaint: what === 'density' || what === 'stretch' ? { set: this.set(), what } : null,
    });
  }

  private async measure(art: string): Promise<void> {
    const reports = await this.operations.uvs();
    if (art === this.art()) this.reports.set(reports);
  }
}
