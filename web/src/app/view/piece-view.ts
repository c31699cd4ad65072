import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
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
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { Agent, PieceDocument, Pivot } from '@yard-brace/core';
import { Slider } from 'primeng/slider';
import type { ArtToDraw } from '../compute/messages';
import { Notices } from '../shell/notices';
import { Escape } from '../shell/escape';
import { isTyping } from '../shell/keys';
import { type Deviations, LEGEND } from './deviation-paint';
import { type MarksToDraw, NO_MARKS } from './marks';
import type { Reference } from './references';
import type { Area } from './screen-area';
import { LOOKS_FROM, type LooksFrom, ViewState } from './view-state';
import { type Hit, type Label, type NumberedShape, type TagPlace, YardView } from './yard-view';

export interface ArtOfPiece {
  art: ArtToDraw;
  document: PieceDocument;
  /** the view stays where it is looked at from */
  stay?: boolean;
}

/** Faces that were marked out on the screen. */
export interface MarkedOut {
  faces: Uint8Array;
  how: 'add' | 'take' | 'only';
  /** from where it was looked at */
  sight: YardView['sight'];
}

const LOOK_WORDS: Record<LooksFrom, { name: string; key: string }> = {
  free: { name: 'Free', key: 'P' },
  front: { name: 'Front', key: 'F' },
  side: { name: 'Side', key: 'S' },
  top: { name: 'Top', key: 'T' },
};

/** The view with its tags, the veil, and the ways of looking at a piece. */
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
      [class.aiming]="asked() || settings().choosing"
      (pointerdown)="pressed($event)"
      (pointermove)="moved($event)"
      (pointerup)="released($event)"
      (pointerleave)="left()"
      (click)="clicked($event)"
      (contextmenu)="$event.preventDefault()"
    ></canvas>
    @if (area().length > 1) {
      <svg class="area" aria-hidden="true"><polygon [attr.points]="areaPoints()" /></svg>
    }
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
      @for (label of labelPlaces(); track label.id) {
        @if (!label.behind) {
          <span class="label figures" [style.transform]="'translate(' + label.x + 'px,' + label.y + 'px)'">{{
            labels()[+label.id]?.text
          }}</span>
        }
      }
      @if (handle(); as h) {
        <span
          class="handle"
          title="Drag the cut"
          [style.transform]="'translate(' + h.x + 'px,' + h.y + 'px)'"
          (pointerdown)="grabCut($event)"
          (pointermove)="dragCut($event)"
          (pointerup)="dropCut($event)"
          data-testid="cut-handle"
          >cut</span
        >
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
          [style]="{ width: '84px' }"
          data-testid="veil"
        />
        <span>proxies</span>
      </span>
      <span class="set" role="radiogroup" aria-label="Look from">
        @for (from of looksFrom; track from) {
          <button
            type="button"
            role="radio"
            [attr.aria-checked]="settings().from === from"
            [class.on]="settings().from === from"
            [title]="'Look ' + words[from].name.toLowerCase() + ' (' + words[from].key + ')'"
            (click)="state.set({ from })"
          >
            {{ words[from].name }}
          </button>
        }
        <button type="button" (click)="view?.fit()" title="Fit the piece to the view (Home)">Fit</button>
      </span>
      <span class="set">
        <button
          type="button"
          [class.on]="settings().cut"
          (click)="toggleCut()"
          title="Cut the piece open (C)"
          data-testid="cut"
        >
          Cut
        </button>
        <button
          type="button"
          [class.on]="settings().wire"
          [attr.aria-pressed]="settings().wire"
          (click)="state.toggle('wire')"
          title="Wireframe (W)"
        >
          Wire
        </button>
        <button
          type="button"
          [class.on]="settings().facing"
          [attr.aria-pressed]="settings().facing"
          (click)="state.toggle('facing')"
          title="Fronts and backs of faces (B)"
        >
          Facing
        </button>
        <button
          type="button"
          [class.on]="settings().checker"
          [attr.aria-pressed]="settings().checker"
          (click)="state.toggle('checker')"
          title="Checker on the UVs (K)"
        >
          Checker
        </button>
        <button
          type="button"
          [class.on]="settings().deviation"
          [attr.aria-pressed]="settings().deviation"
          (click)="state.toggle('deviation')"
          title="How far the proxies lie from the art (D)"
          data-testid="deviation"
        >
          Deviation
        </button>
      </span>
    </div>
    @if (settings().deviation) {
      <div class="legend" data-testid="legend">
        @if (deviation(); as d) {
          <span
            >Deviation, art out <b class="figures">{{ millimetres(d.artOutside) }}</b>, proxies out
            <b class="figures">{{ millimetres(d.proxyOutside) }}</b> mm at most</span
          >
          <span class="scale">
            @for (color of legend; track $index) {
              <i [style.background]="color"></i>
            }
          </span>
          <span class="ends figures"
            ><span>art out {{ millimetres(d.scale) }}</span
            ><span>0</span><span>{{ millimetres(d.scale) }} proxy out</span></span
          >
        } @else {
          <span>{{ shapes().length ? 'Measuring …' : 'No shapes to measure against' }}</span>
        }
      </div>
    }
    @if (settings().cut; as cut) {
      <div class="cutting">
        @for (name of ['x', 'y', 'z']; track name; let i = $index) {
          <button type="button" [class.on]="cut.axis === i" (click)="setCut({ axis: $any(i) })">
            {{ name }}
          </button>
        }
        <p-slider
          [ngModel]="cut.at * 100"
          (ngModelChange)="setCut({ at: $event / 100 })"
          [min]="0"
          [max]="100"
          [step]="0.5"
          ariaLabel="Where the cut runs"
          [style]="{ width: '110px' }"
        />
        <button type="button" (click)="setCut({ flipped: !cut.flipped })">Other half</button>
      </div>
    }
    @if (asked(); as what) {
      <p class="asking" role="status" data-testid="asking">
        {{ what }} <button type="button" class="quiet-button" (click)="state.refuse()">Leave it</button>
      </p>
    }
    @if (!art()) {
      <p class="waiting faded">{{ waiting() }}</p>
    }
    <ng-content />
  `,
  styleUrl: './piece-view.css',
})
export class PieceView implements OnDestroy {
  private readonly notices = inject(Notices);
  protected readonly state = inject(ViewState);
  readonly art = input<ArtOfPiece | null>(null);
  readonly others = input<readonly ArtOfPiece[]>([]);
  readonly shapes = input<readonly NumberedShape[]>([]);
  readonly proposed = input(false);
  readonly pivot = input<Pivot | null>(null);
  readonly lit = input<string | null>(null);
  readonly deviation = input<Deviations | null>(null);
  /** the pivot whose hinge is tried */
  readonly hinge = input<Pivot | null>(null);
  readonly marks = input<MarksToDraw>(NO_MARKS);
  readonly labels = input<readonly Label[]>([]);
  readonly agents = input<readonly Agent[]>([]);
  readonly gridMetres = input(1);
  readonly waiting = input('');
  readonly point = output<string | null>();
  readonly hit = output<Hit>();
  readonly markedOut = output<MarkedOut>();
  /** a click on a face while faces are chosen by border */
  readonly border = output<{ face: number; at: [number, number, number]; how: 'add' | 'take' | 'only' }>();

  protected readonly settings = toSignal(this.state.settings$, { requireSync: true });
  protected readonly asked = toSignal(this.state.asked$, { requireSync: true });
  private readonly chosen = toSignal(this.state.chosen$, { requireSync: true });
  private readonly swung = toSignal(this.state.swing$, { requireSync: true });
  private readonly places = toSignal(this.state.places$, { requireSync: true });
  protected readonly legend = LEGEND;
  /** To a tenth where that can be seen, in one style. */
  protected readonly millimetres = (metres: number) =>
    (metres * 1000).toLocaleString('en-GB', { maximumFractionDigits: metres < 0.1 ? 1 : 0 });
  protected readonly looksFrom = LOOKS_FROM;
  protected readonly words = LOOK_WORDS;
  protected readonly veil = signal(50);
  private readonly flipped = signal(false);
  protected readonly veilShown = () => (this.flipped() ? (this.veil() < 50 ? 100 : 0) : this.veil());
  protected readonly tags = signal<readonly TagPlace[]>([]);
  protected readonly labelPlaces = signal<readonly TagPlace[]>([]);
  protected readonly handle = signal<TagPlace | null>(null);
  protected readonly area = signal<Area>([]);
  protected readonly areaPoints = computed(() =>
    this.area()
      .map((p) => p.join())
      .join(' '),
  );
  protected readonly numbers = signal<ReadonlyMap<string, number>>(new Map());
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly ready = signal(false);
  private readonly sized = new ResizeObserver(([entry]) =>
    this.view?.resize(entry!.contentRect.width, entry!.contentRect.height),
  );
  private asking = 0;
  private start: readonly [number, number] | null = null;
  private cutGrab: readonly [number, number] | null = null;
  protected view: YardView | undefined;

  constructor() {
    afterNextRender(() => this.open());
    const whenReady = (act: (view: YardView) => void) =>
      effect(() => {
        if (this.ready()) act(this.view!);
      });
    whenReady((view) => {
      const art = this.art();
      if (art) view.setArt(art.art, art.document, { stay: art.stay });
      else view.clearArt();
    });
    whenReady((view) => view.setOthers(this.others()));
    whenReady((view) => {
      const shapes = this.shapes();
      this.numbers.set(new Map(shapes.map(({ id, number }) => [id, number])));
      view.setShapes(shapes);
      untracked(() => view.setVeil(this.veilShown() / 100));
    });
    whenReady((view) => {
      const pivot = this.pivot();
      if (pivot) view.setPivot(pivot.position, pivot.rotation);
    });
    whenReady((view) => view.setVeil(this.veilShown() / 100));
    whenReady((view) => {
      this.art();
      view.setDeviation(this.deviation());
    });
    whenReady((view) => view.light(this.lit()));
    whenReady((view) => view.lookFrom(this.settings().from));
    const look = computed(
      () => ({
        wire: this.settings().wire,
        facing: this.settings().facing,
        checker: this.settings().checker,
      }),
      { equal: sameFields },
    );
    whenReady((view) => {
      this.art();
      view.look(look());
    });
    const cut = computed(() => this.settings().cut);
    whenReady((view) => {
      this.art();
      view.setCut(cut());
    });
    const parts = computed(() => ({ alone: this.settings().alone, hidden: this.settings().hidden }), {
      equal: sameFields,
    });
    whenReady((view) => {
      const art = this.art();
      const { alone, hidden } = parts();
      const ids = art?.document.nodes.map(({ id }) => id) ?? [];
      const looks = (part: number) =>
        hidden.has(ids[part]!) ? 'gone' : alone && !alone.has(ids[part]!) ? 'faint' : 'whole';
      const swing = this.swung();
      if (!swing || !art) {
        view.swing(null);
        view.showParts(alone || hidden.size ? looks : null);
        return;
      }
      const hinge = this.hinge();
      const turns = partsBelow(art.document, swing.part);
      if (hinge) view.swing((part) => turns[part] === 1, hinge.position, hinge.hinge?.axis, swing.degrees);
    });
    whenReady((view) => view.setChosen(this.chosen()?.faces ?? null));
    whenReady((view) => view.setFaults(this.places()));
    whenReady((view) => {
      this.art();
      view.setMarks(this.marks(), this.labels());
    });
    const references = computed(() => this.settings().references);
    whenReady((view) => {
      this.art();
      const known = references().map((id): Reference | null => {
        if (id === 'door' || id === 'cube') return { kind: id };
        const agent = this.agents().find((each) => each.id === id);
        return agent ? { kind: 'agent', agent } : null;
      });
      view.setReferences(known.filter((each) => each !== null));
    });
    const drags = computed(
      () => this.settings().choosing && ['box', 'lasso'].includes(this.settings().chooseBy),
    );
    whenReady((view) => view.setDragging(drags()));
    const escape = inject(Escape);
    escape.register('question', () => {
      const asked = this.asked() !== null;
      if (asked) this.state.refuse();
      return asked;
    });
    escape.register('selection', () => {
      const chosen = this.chosen() !== null;
      if (chosen) this.state.clearChosen();
      return chosen;
    });
  }

  ngOnDestroy(): void {
    cancelAnimationFrame(this.asking);
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
    this.view.onFrame = (tags, labels, handle) => {
      this.tags.set(tags);
      this.labelPlaces.set(labels);
      this.handle.set(handle);
    };
    this.sized.observe(this.canvas().nativeElement);
    this.ready.set(true);
  }

  protected pressed(event: PointerEvent): void {
    this.start = [event.offsetX, event.offsetY];
    const { choosing, chooseBy } = this.settings();
    if (event.button === 0 && choosing && (chooseBy === 'box' || chooseBy === 'lasso')) {
      this.area.set([this.start]);
      this.canvas().nativeElement.setPointerCapture(event.pointerId);
    }
  }

  /** One pick a frame at most, and none while the view is turned. */
  protected moved(event: PointerEvent): void {
    const { offsetX, offsetY } = event;
    if (this.area().length && this.start) {
      const [x, y] = this.start;
      if (this.settings().chooseBy === 'lasso') this.area.update((area) => [...area, [offsetX, offsetY]]);
      else
        this.area.set([
          [x, y],
          [offsetX, y],
          [offsetX, offsetY],
          [x, offsetY],
        ]);
      return;
    }
    if (event.buttons) return;
    cancelAnimationFrame(this.asking);
    this.asking = requestAnimationFrame(() => {
      const hit = this.view?.pick(offsetX, offsetY) ?? null;
      this.hit.emit(hit);
      this.point.emit(hit && 'shape' in hit ? hit.shape : null);
      if (!this.asked()) return;
      const snap = this.view?.snap(offsetX, offsetY);
      this.state.points$.next(snap ? [snap.at] : []);
    });
  }

  protected released(event: PointerEvent): void {
    const area = this.area();
    if (!area.length) return;
    this.area.set([]);
    const faces = area.length > 3 && this.view?.facesIn(area);
    if (faces) this.markedOut.emit({ faces, how: howOf(event), sight: this.view!.sight });
  }

  protected left(): void {
    cancelAnimationFrame(this.asking);
    this.hit.emit(null);
    this.point.emit(null);
  }

  protected clicked(event: MouseEvent): void {
    this.canvas().nativeElement.focus({ preventScroll: true });
    // A click at the end of turning the view means nothing.
    const { offsetX, offsetY } = event;
    if (this.start && Math.hypot(offsetX - this.start[0], offsetY - this.start[1]) > 4) return;
    const document = this.art()?.document;
    if (!document) return;
    if (this.asked()) {
      const snap = this.view?.snap(offsetX, offsetY);
      if (snap) {
        this.state.points$.next([]);
        this.state.pick({ ...snap, part: document.nodes[snap.part]!.id });
      }
      return;
    }
    const { choosing, chooseBy } = this.settings();
    if (!choosing || chooseBy === 'box' || chooseBy === 'lasso') return;
    const hit = this.view?.pickFace(offsetX, offsetY);
    if (!hit) {
      if (!event.shiftKey && !event.altKey) this.state.clearChosen();
    } else if (chooseBy === 'border') this.border.emit({ face: hit.face, at: hit.at, how: howOf(event) });
    else {
      const faces = this.state.facesFrom(hit.face);
      if (faces) this.state.choose(faces, howOf(event));
    }
  }

  protected toggleCut(): void {
    this.state.set({ cut: this.settings().cut ? null : { axis: 2, at: 0.5, flipped: false } });
  }

  protected setCut(change: Partial<NonNullable<ReturnType<typeof this.settings>['cut']>>): void {
    const { cut } = this.settings();
    if (cut) this.state.set({ cut: { ...cut, ...change } });
  }

  protected grabCut(event: PointerEvent): void {
    this.cutGrab = [event.clientX, event.clientY];
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
  }

  protected dragCut(event: PointerEvent): void {
    const { cut } = this.settings();
    if (!this.cutGrab || !cut || !this.view) return;
    const way = this.view.cutWay(event.clientX - this.cutGrab[0], event.clientY - this.cutGrab[1]);
    this.cutGrab = [event.clientX, event.clientY];
    this.setCut({ at: Math.min(1, Math.max(0, cut.at + way)) });
  }

  protected dropCut(event: PointerEvent): void {
    this.cutGrab = null;
    (event.target as HTMLElement).releasePointerCapture(event.pointerId);
  }

  protected keyDown(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    const from = LOOKS_FROM.find((each) => LOOK_WORDS[each].key.toLowerCase() === key);
    if (event.key === 'Home') this.view?.fit();
    else if (key === 'v') this.flipped.set(true);
    else if (from) this.state.set({ from });
    else if (key === 'c') this.toggleCut();
    else if (key === 'w') this.state.toggle('wire');
    else if (key === 'b') this.state.toggle('facing');
    else if (key === 'k') this.state.toggle('checker');
    else if (key === 'd') this.state.toggle('deviation');
    else if (key === 'g') this.state.set({ choosing: !this.settings().choosing });
    else if (key === '+') this.state.change('grow');
    else if (key === '-') this.state.change('shrink');
    else if (key === 'i') this.state.change('invert');
    else return;
    event.preventDefault();
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key === 'v' || event.key === 'V') this.flipped.set(false);
  }
}

/** [n]: 1 for a part and all below it; everything for no part. */
function partsBelow({ nodes }: PieceDocument, id: string): Uint8Array {
  const marks = new Uint8Array(nodes.length);
  nodes.forEach((node, i) => {
    if (id === '' || node.id === id || (node.parent !== null && marks[node.parent])) marks[i] = 1;
  });
  return marks;
}

const howOf = (event: MouseEvent): MarkedOut['how'] =>
  event.altKey ? 'take' : event.shiftKey ? 'add' : 'only';

const sameFields = <T extends object>(a: T, b: T): boolean =>
  (Object.keys(a) as (keyof T)[]).every((key) => a[key] === b[key]);
