import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { PieceDocument, Vec3 } from '@yard-brace/core';
import { Slider } from 'primeng/slider';
import type { ArtToDraw } from '../compute/messages';
import { Notices } from '../shell/notices';
import { isTyping } from '../shell/shortcuts';
import { type Hit, type NumberedShape, type TagPlace, YardView } from './yard-view';

export interface ArtOfPiece {
  art: ArtToDraw;
  document: PieceDocument;
}

/** The view with its tags and the veil. */
@Component({
  selector: 'yb-piece-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Slider],
  host: { '(document:keydown)': 'keyDown($event)', '(document:keyup)': 'keyUp($event)' },
  template: `
    <canvas
      #canvas
      tabindex="0"
      aria-label="View of the piece"
      data-testid="view"
      (pointermove)="moved($event)"
      (pointerleave)="left()"
      (click)="clicked()"
    ></canvas>
    <div class="tags" aria-hidden="true">
      @for (tag of tags(); track tag.id) {
        @if (!tag.behind) {
          <span
            class="tag figures"
            [class.lit]="tag.id === lit()"
            [class.proposed]="proposed()"
            [style.transform]="'translate(' + tag.x + 'px,' + tag.y + 'px)'"
            (pointerenter)="point.emit(tag.id)"
            (pointerleave)="point.emit(null)"
            >{{ numbers().get(tag.id) }}</span
          >
        }
      }
    </div>
    <div class="tools">
      <span class="veil">
        <span>art</span>
        <p-slider
          [ngModel]="veilShown()"
          (ngModelChange)="veil.set($event)"
          [min]="0"
          [max]="100"
          ariaLabel="Veil between art and proxies"
          [style]="{ width: '120px' }"
          data-testid="veil"
        />
        <span>proxies</span>
      </span>
      <button type="button" class="fit" (click)="view?.fit()" title="Fit the piece to the view (Home)">
        Fit
      </button>
    </div>
    @if (!art()) {
      <p class="waiting faded">{{ waiting() }}</p>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      overflow: hidden;
      background: var(--paper);
    }
    canvas {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      outline-offset: -3px;
      touch-action: none;
    }
    .tags {
      position: absolute;
      inset: 0;
      overflow: hidden;
      pointer-events: none;
    }
    .tag {
      position: absolute;
      left: 0;
      top: -24px;
      margin-left: -11px;
      min-width: 22px;
      padding: 0 4px;
      text-align: center;
      font-size: 11px;
      line-height: 15px;
      background: var(--card);
      border: 1px solid var(--ink);
      pointer-events: auto;
    }
    .tag::after {
      content: '';
      position: absolute;
      left: 50%;
      bottom: -4px;
      width: 6px;
      height: 6px;
      translate: -50% 0;
      rotate: 45deg;
      background: inherit;
      border: inherit;
      border-top-color: transparent;
      border-left-color: transparent;
    }
    .tag.proposed {
      border-style: dashed;
    }
    .tag.lit {
      z-index: 1;
      background: var(--ink);
      color: var(--card);
    }
    .tools {
      position: absolute;
      left: 12px;
      top: 10px;
      display: flex;
      gap: 14px;
    }
    .veil {
      display: flex;
      align-items: center;
      gap: 10px;
      height: 28px;
      padding: 0 10px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
    .fit {
      height: 28px;
      padding: 0 12px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      cursor: pointer;
    }
    .fit:hover {
      border-color: var(--ink);
    }
    .waiting {
      position: absolute;
      inset: 0;
      display: grid;
      place-items: center;
      pointer-events: none;
    }
  `,
})
export class PieceView implements OnDestroy {
  private readonly notices = inject(Notices);
  readonly art = input<ArtOfPiece | null>(null);
  readonly shapes = input<readonly NumberedShape[]>([]);
  readonly proposed = input(false);
  readonly pivot = input<Vec3>([0, 0, 0]);
  readonly lit = input<string | null>(null);
  readonly gridMetres = input(1);
  readonly waiting = input('');
  readonly point = output<string | null>();
  readonly hit = output<Hit>();

  protected readonly veil = signal(50);
  private readonly flipped = signal(false);
  protected readonly veilShown = () => (this.flipped() ? (this.veil() < 50 ? 100 : 0) : this.veil());
  protected readonly tags = signal<readonly TagPlace[]>([]);
  protected readonly numbers = signal<ReadonlyMap<string, number>>(new Map());
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly ready = signal(false);
  private readonly sized = new ResizeObserver(([entry]) =>
    this.view?.resize(entry!.contentRect.width, entry!.contentRect.height),
  );
  private asked = 0;
  private under: Hit = null;
  protected view: YardView | undefined;

  constructor() {
    afterNextRender(() => this.open());
    effect(() => {
      const art = this.art();
      if (!this.ready()) return;
      if (art) this.view!.setArt(art.art, art.document);
      else this.view!.clearArt();
    });
    effect(() => {
      const shapes = this.shapes();
      if (!this.ready()) return;
      this.numbers.set(new Map(shapes.map(({ id, number }) => [id, number])));
      this.view!.setShapes(shapes);
      untracked(() => this.view!.setVeil(this.veilShown() / 100));
    });
    effect(() => {
      const pivot = this.pivot();
      if (this.ready()) this.view!.setPivot(pivot);
    });
    effect(() => {
      const veil = this.veilShown();
      if (this.ready()) this.view!.setVeil(veil / 100);
    });
    effect(() => {
      const lit = this.lit();
      if (this.ready()) this.view!.light(lit);
    });
  }

  ngOnDestroy(): void {
    cancelAnimationFrame(this.asked);
    this.sized.disconnect();
    this.view?.dispose();
  }

  private open(): void {
    try {
      this.view = new YardView(this.canvas().nativeElement, this.gridMetres());
    } catch {
      this.notices.say('This browser gives no WebGL, so there is no view; everything else works.', true);
      return;
    }
    this.view.onFrame = (tags) => this.tags.set(tags);
    this.sized.observe(this.canvas().nativeElement);
    this.ready.set(true);
  }

  /** One pick a frame at most, and none while the view is turned. */
  protected moved(event: PointerEvent): void {
    if (event.buttons) return;
    const { offsetX, offsetY } = event;
    cancelAnimationFrame(this.asked);
    this.asked = requestAnimationFrame(() => {
      this.under = this.view?.pick(offsetX, offsetY) ?? null;
      this.hit.emit(this.under);
      this.point.emit(this.under && 'shape' in this.under ? this.under.shape : null);
    });
  }

  protected left(): void {
    cancelAnimationFrame(this.asked);
    this.hit.emit(null);
    this.point.emit(null);
  }

  protected clicked(): void {
    this.canvas().nativeElement.focus({ preventScroll: true });
  }

  protected keyDown(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Home') this.view?.fit();
    else if (event.key === 'v' || event.key === 'V') this.flipped.set(true);
    else return;
    event.preventDefault();
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key === 'v' || event.key === 'V') this.flipped.set(false);
  }
}
