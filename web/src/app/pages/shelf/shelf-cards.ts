import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
} from '@angular/core';
import type { PieceSummary } from '@yard-brace/contract';
import { PieceCard } from './piece-card';

const CARD_PIXELS = 228;
const GAP_PIXELS = 14;
/** The bar of a shelf that scrolls, and the room beside it. */
const SCROLL_BAR_PIXELS = 23;
/** What a card has below its picture, and round it. */
const CARD_TEXT_PIXELS = 86;
const CARD_PADDING_PIXELS = 22;
const PICTURE_ASPECT = 124 / 264;

/** As many cards as fit side by side, and how high a row of them is with the gap below it. */
export function rowMeasures(width: number): { columns: number; pixels: number } {
  const columns = Math.max(1, Math.floor((width + GAP_PIXELS) / (CARD_PIXELS + GAP_PIXELS)));
  const card = (width - GAP_PIXELS * (columns - 1)) / columns;
  const picture = (card - CARD_PADDING_PIXELS) * PICTURE_ASPECT;
  return { columns, pixels: Math.ceil(picture + CARD_TEXT_PIXELS + GAP_PIXELS) };
}

export function inRows<T>(things: readonly T[], columns: number): T[][] {
  const rows: T[][] = [];
  for (let i = 0; i < things.length; i += columns) rows.push(things.slice(i, i + columns));
  return rows;
}

/** The shelf as cards; of a long one only what is seen is drawn. */
@Component({
  selector: 'yb-shelf-cards',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkVirtualScrollViewport, CdkFixedSizeVirtualScroll, CdkVirtualForOf, PieceCard],
  template: `
    <cdk-virtual-scroll-viewport
      [itemSize]="measures().pixels"
      [minBufferPx]="300"
      [maxBufferPx]="700"
      tabindex="-1"
    >
      <div role="list" aria-label="Pieces">
        <div
          *cdkVirtualFor="let row of rows(); trackBy: byFirst"
          class="row"
          role="presentation"
          [style.height.px]="measures().pixels"
        >
          <!-- A row that scrolls away is used again: its cards take other pieces, and are not made anew. -->
          @for (piece of row; track $index) {
            <div role="listitem">
              <yb-piece-card
                [piece]="piece"
                [chosen]="chosen().has(piece.id)"
                (choose)="choose.emit(piece)"
              />
            </div>
          }
        </div>
      </div>
    </cdk-virtual-scroll-viewport>
  `,
  styles: `
    :host,
    cdk-virtual-scroll-viewport {
      display: block;
      height: 100%;
      min-height: 0;
    }
    .row {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(228px, 1fr));
      gap: 14px;
      padding: 0 8px 14px 0;
    }
  `,
})
export class ShelfCards implements OnDestroy {
  readonly pieces = input.required<readonly PieceSummary[]>();
  readonly chosen = input.required<ReadonlySet<number>>();
  readonly choose = output<PieceSummary>();
  private readonly width = signal(1200);
  protected readonly measures = computed(() => rowMeasures(this.width()));
  protected readonly rows = computed(() => inRows(this.pieces(), this.measures().columns));
  private readonly sizes = new ResizeObserver(([entry]) =>
    this.width.set(entry!.contentRect.width - SCROLL_BAR_PIXELS),
  );

  constructor() {
    this.sizes.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
  }

  ngOnDestroy(): void {
    this.sizes.disconnect();
  }

  protected byFirst = (_: number, row: readonly PieceSummary[]): number => row[0]!.id;
}
