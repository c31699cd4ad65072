import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText } from '@yard-brace/core';
import { ArtStore } from '../../state/art-store';
import { BenchStore } from '../../state/bench-store';
import { Selection } from '../../state/selection';
import type { FaceHit } from '../../viewport/layers/art-layer';
import { readingOf, standingOf } from './view/reading';
import { numberedShapes } from './view/shown-marks';

/** Under the view: what is under the pointer, what is chosen, what the piece comes to. */
@Component({
  selector: 'yb-reading-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div aria-live="off" data-testid="reading-line">
      @for (part of reading(); track $index) {
        <span [class.figures]="part.figures">{{ part.text }}</span>
      }
      <span class="gap"></span>
      <span class="faded">{{ standing() }}</span>
      <span
        >grid <span class="figures">{{ grid() }}</span></span
      >
    </div>
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 18px;
      min-height: 28px;
      padding: 0 12px;
      background: var(--card);
      border-top: 1px solid var(--rule);
      white-space: nowrap;
    }
    .gap {
      flex: 1;
    }
  `,
})
export class ReadingLine {
  readonly hit = input<FaceHit | null>(null);
  private readonly selection = inject(Selection);
  private readonly document = toSignal(inject(ArtStore).shown$, { initialValue: null });
  private readonly piece = toSignal(inject(BenchStore).piece$, { initialValue: null });
  private readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  private readonly pointed = toSignal(this.selection.pointed$, { requireSync: true });
  protected readonly reading = computed(() => {
    const document = this.document();
    const shapes = document ? numberedShapes(document) : [];
    const pointed = shapes.find(({ id }) => id === this.pointed()) ?? null;
    return readingOf({ hit: this.hit(), faces: this.faces(), pointed, document });
  });
  protected readonly standing = computed(() => {
    const document = this.document();
    return document ? standingOf(document) : '';
  });
  protected readonly grid = computed(() => {
    const piece = this.piece();
    return piece ? lengthText(piece.yard.rules.gridMetres) : '…';
  });
}
