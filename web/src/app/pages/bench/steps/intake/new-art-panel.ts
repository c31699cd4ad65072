import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BESIDE_EXTENSIONS, lengthText, MESH_EXTENSIONS, sortFiles } from '@yard-brace/core';
import { NewArtStore } from '../../../../state/new-art-store';
import { placed } from '../../../../state/dropped-files';
import { Check } from '../../../../ui/check';
import { FactTable } from '../../../../ui/fact-table';
import { BECAME, fitSummary, misfits, newArtSummary, partDetail, pivotOutcome } from './new-art-texts';

/** New art for the piece: what it would change, before anything is replaced. The bar in the view keeps or discards it. */
@Component({
  selector: 'yb-new-art-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, FactTable],
  template: `
    <section class="panel">
      <div class="row">
        <input
          #files
          type="file"
          multiple
          hidden
          [accept]="accepted"
          (change)="chosen(files)"
          data-testid="new-art-input"
        />
        <button type="button" class="act" (click)="files.click()">New art for this piece …</button>
      </div>
      @if (compared(); as compared) {
        <div class="report" data-testid="new-art">
          <p>{{ summary() }}</p>
          <ul class="list">
            @for (part of compared.report.parts; track $index) {
              @if (part.became !== 'same') {
                <li [attr.data-became]="part.became">
                  <span class="grow">{{ part.name }}</span>
                  <span>{{ became[part.became] }}</span>
                  <span class="figures">{{ partDetail(part) }}</span>
                </li>
              }
            }
            @for (pivot of compared.report.pivots; track $index) {
              <li>
                <span class="grow">pivot{{ pivot.part ? ' of ' + pivot.name : '' }}</span>
                <span>{{ pivotOutcome(pivot, compared.goAlong) }}</span>
                <span class="figures">{{ lengthText(pivot.off) }}</span>
              </li>
            }
          </ul>
          @if (compared.fits.length) {
            <p data-testid="proxy-fit">{{ fitSummary() }}</p>
            @if (misfits().length) {
              <yb-facts [facts]="misfits()" [heads]="['No longer fits', 'excess', 'uncovered']" />
            }
          }
          <yb-check [checked]="compared.goAlong" (changed)="store.letGoAlong($event)"
            >move the pivot with the new art instead of restoring it</yb-check
          >
          <p class="faded">Names, pivots, proxies and clearances stay. It can be undone.</p>
        </div>
      }
    </section>
  `,
  styles: `
    .report {
      display: grid;
      gap: 6px;
      padding: 8px 10px;
      background: var(--paper);
      border-left: 3px solid var(--tide);
    }
  `,
})
export class NewArtPanel {
  protected readonly store = inject(NewArtStore);
  protected readonly compared = toSignal(this.store.compared$, { requireSync: true });
  protected readonly accepted = [...MESH_EXTENSIONS, ...BESIDE_EXTENSIONS]
    .map((extension) => `.${extension}`)
    .join();
  protected readonly became = BECAME;
  protected readonly partDetail = partDetail;
  protected readonly pivotOutcome = pivotOutcome;
  protected readonly lengthText = lengthText;
  protected readonly summary = computed(() => newArtSummary(this.compared()!.report));
  protected readonly misfits = computed(() => misfits(this.compared()?.fits ?? []));
  protected readonly fitSummary = computed(() => fitSummary(this.compared()?.fits ?? []));

  protected chosen(input: HTMLInputElement): void {
    const [first] = sortFiles([...(input.files ?? [])].map(placed)).meshes;
    input.value = '';
    if (first)
      void this.store.compare({ file: first.file.file, beside: first.beside.map(({ file }) => file) });
  }
}
