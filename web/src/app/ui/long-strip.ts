import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  input,
  type TemplateRef,
  untracked,
  viewChild,
} from '@angular/core';

/** From so many pieces on only those are drawn that are seen, each as high as the others. */
const MANY_PIECES = 80;
const ROW_PIXELS = 98;

interface Listed {
  id: number;
}

/** Pieces below each other; of thousands only those that are seen are drawn. */
@Component({
  selector: 'yb-long-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport, NgTemplateOutlet],
  host: { '[class.many]': 'many()' },
  template: `
    @if (many()) {
      <cdk-virtual-scroll-viewport [itemSize]="rowPixels" [minBufferPx]="600" [maxBufferPx]="1200">
        <ul>
          <ng-container *cdkVirtualFor="let piece of list(); trackBy: byId">
            <div class="row" [style.height.px]="rowPixels">
              <ng-container *ngTemplateOutlet="row(); context: { $implicit: piece }" />
            </div>
          </ng-container>
        </ul>
      </cdk-virtual-scroll-viewport>
    } @else {
      <ul>
        @for (piece of pieces(); track piece.id) {
          <ng-container *ngTemplateOutlet="row(); context: { $implicit: piece }" />
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    :host(.many),
    cdk-virtual-scroll-viewport {
      height: 100%;
      min-height: 0;
    }
    .row {
      overflow: hidden;
    }
  `,
})
export class LongStrip<T extends Listed> {
  readonly pieces = input.required<readonly T[]>();
  readonly row = input.required<TemplateRef<{ $implicit: T }>>();
  /** id of the piece that is to be seen */
  readonly current = input(0);
  protected readonly many = computed(() => this.pieces().length >= MANY_PIECES);
  protected readonly list = computed(() => [...this.pieces()]);
  protected readonly rowPixels = ROW_PIXELS;
  private readonly viewport = viewChild(CdkVirtualScrollViewport);

  constructor() {
    effect(() => {
      const viewport = this.viewport();
      const current = this.current();
      if (!viewport || !current) return;
      const at = untracked(this.pieces).findIndex(({ id }) => id === current);
      // Once it has its size; two above it are seen, too.
      if (at >= 0) setTimeout(() => viewport.scrollToIndex(Math.max(0, at - 2)));
    });
  }

  protected byId = (_: number, piece: T): number => piece.id;
}
