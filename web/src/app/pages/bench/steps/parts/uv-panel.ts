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
import { FactTable } from '../../../../ui/fact-table';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';
import { uvFacts } from './uv-facts';

/** So many parts are listed before the rest is asked for. */
const FIRST_ROWS = 8;

/** How the UVs lie, and new ones. */
@Component({
  selector: 'yb-uv-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FactTable, NumberField],
  template: `
    <section class="panel">
      <h3>UVs, against {{ wanted().texture }} pixels a metre, baked light {{ wanted().baked }}</h3>
      <yb-facts [facts]="shown()" [wraps]="true" />
      @if (more()) {
        <button type="button" class="quiet-button" (click)="all.set(true)">Show {{ more() }} more</button>
      }
      <div class="row">
        <button type="button" class="act" (click)="project()">Box-project UVs</button>
        <span class="labelled"
          ><yb-number
            [value]="pictureMetres()"
            (changed)="pictureMetres.set($event)"
            unit="m"
            label="Metres a picture"
            [min]="0.001"
            [width]="70"
          />
          a picture</span
        >
      </div>
    </section>
  `,
})
export class UvPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly chosen = chosenParts();
  protected readonly pictureMetres = signal(1);
  protected readonly all = signal(false);
  private readonly reports = signal<readonly UvReport[]>([]);
  protected readonly wanted = computed(() => {
    const rules = this.piece()?.yard.rules;
    return { texture: rules?.pixelsPerMetre ?? 0, baked: rules?.bakedPixelsPerMetre ?? 0 };
  });
  private readonly facts = computed(() => {
    const document = this.document();
    return document ? uvFacts(this.reports(), document, this.wanted()) : [];
  });
  protected readonly shown = computed(() => (this.all() ? this.facts() : this.facts().slice(0, FIRST_ROWS)));
  protected readonly more = computed(() => this.facts().length - this.shown().length);
  private readonly art = computed(() => (this.document() ? artKey(this.document()!) : ''));

  constructor() {
    effect(() => {
      const art = this.art();
      if (art) untracked(() => void this.measure(art));
    });
  }

  protected project(): void {
    void this.operations.propose({
      op: 'project-uvs',
      parts: this.chosen.ids(),
      metresPerPicture: this.pictureMetres(),
    });
  }

  private async measure(art: string): Promise<void> {
    const reports = await this.operations.uvs();
    if (art === this.art()) this.reports.set(reports);
  }
}
