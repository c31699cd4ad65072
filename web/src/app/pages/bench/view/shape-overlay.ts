import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText } from '@yard-brace/core';
import { roomForTags } from '../../../drawing/room-for-tags';
import { ArtStore } from '../../../state/art-store';
import { BenchStore } from '../../../state/bench-store';
import { DragExcess } from '../../../state/drag-excess';
import { Proposals } from '../../../state/proposals';
import { Selection } from '../../../state/selection';
import { HandDriveStore } from '../../../state/hand-drive';
import { HandWalkStore } from '../../../state/hand-walk';
import { InHand, type InTheHand } from '../../../state/in-hand';
import { type DragHand, ShapeEditor, TURN_HANDLE } from '../../../state/shape-editor';
import { ViewSettingsStore } from '../../../state/view-settings';
import type { Tool } from '../../../viewport/tool';
import type { PlaceOnScreen } from '../../../drawing/place-on-screen';
import type { BenchScene } from './bench-scene';
import { cornerDrag, faceDrag, growDrag, labelPlace, moveDrag, turnDrag } from './shape-drags';
import { ViewMarks } from '../../../state/view-marks';
import { numberedShapes } from './shown-marks';

/** Until the rules of the yard are there. */
export const DEFAULT_GRID_METRES = 4;

/** A dot stands a little above its shape, CSS pixels. */
const DOT_ABOVE_PIXELS = 4;

/** What lies over the shapes in the view: their tags, and the tabs of the one in the hand. */
@Component({
  selector: 'yb-shape-overlay',
  host: { class: 'tags' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (dots().length) {
      <svg>
        <path class="rim" [attr.d]="dotsPath()" />
        <path
          class="dot"
          [attr.d]="dotsPath()"
          (pointermove)="selection.point(dotAt($event))"
          (pointerdown)="grabShape(dotAt($event), $event)"
        />
      </svg>
    }
    @for (tag of tagsWithRoom(); track tag.id) {
      <span
        class="tag figures"
        [class.lit]="tag.id === pointed()"
        [class.chosen]="chosenIds().has(tag.id)"
        [class.proposed]="proposal() !== null"
        [attr.data-tag]="numbers().get(tag.id)"
        [style.transform]="placed(tag)"
        (pointerenter)="selection.point(tag.id)"
        (pointerleave)="selection.point(null)"
        (pointerdown)="grabShape(tag.id, $event)"
        >{{ numbers().get(tag.id) }}</span
      >
    }
    @for (tab of tabs(); track tab.id) {
      @if (!tab.behind) {
        <span
          class="tab"
          [class.corner]="tab.id.startsWith('corner')"
          [class.turn]="tab.id === turnHandle"
          [attr.title]="titleOf(tab.id)"
          [class.held]="inHand()?.drag?.handle === tab.id"
          [attr.data-tab]="tab.id"
          [style.transform]="placed(tab)"
          (pointerdown)="grabTab(tab.id, $event)"
          >{{ tab.id === turnHandle ? '°' : '' }}</span
        >
      }
    }
    @if (saidAt(); as place) {
      <span class="said figures" [style.transform]="placed(place)" data-testid="drag-said"
        >{{ said() }}{{ excessText() }}</span
      >
    }
  `,
  styles: `
    :host {
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
      --paper: var(--card);
      --line: 1px solid var(--ink);
      background: var(--paper);
      border: var(--line);
      pointer-events: auto;
    }
    svg {
      position: absolute;
      width: 100%;
      height: 100%;
    }
    /* Round caps of lines without length. */
    path {
      stroke: var(--ink);
      stroke-width: 8px;
      stroke-linecap: round;
    }
    .dot {
      stroke: var(--card);
      stroke-width: 6px;
      pointer-events: stroke;
    }
    /* By variables: Chromium slows down from frame to frame where hundreds of these say "inherit". */
    .tag::after {
      content: '';
      position: absolute;
      left: 50%;
      bottom: -4px;
      width: 6px;
      height: 6px;
      translate: -50% 0;
      rotate: 45deg;
      background: var(--paper);
      border: var(--line);
      border-top-color: transparent;
      border-left-color: transparent;
    }
    .tag.proposed {
      --line: 1px dashed var(--ink);
    }
    /* Aside, so that it does not lie over the tab of the upper face. */
    .tag.chosen {
      z-index: 1;
      --line: 1px solid var(--tide);
      margin-left: -46px;
      box-shadow: inset 0 0 0 1px var(--tide);
      cursor: grab;
    }
    .tab {
      position: absolute;
      z-index: 2;
      left: -7px;
      top: -7px;
      width: 14px;
      height: 14px;
      background: var(--card);
      border: 1.5px solid var(--ink);
      cursor: grab;
      pointer-events: auto;
      touch-action: none;
    }
    .tab.corner {
      z-index: 1;
      left: -4.5px;
      top: -4.5px;
      width: 9px;
      height: 9px;
    }
    .tab.turn {
      left: -9px;
      top: -9px;
      width: 18px;
      height: 18px;
      border-radius: 50%;
      font-weight: 700;
      line-height: 17px;
      text-align: center;
      color: var(--ink);
    }
    .tab.turn:hover,
    .tab.turn.held {
      color: var(--card);
    }
    .tab::before {
      content: '';
      position: absolute;
      inset: -5px;
    }
    .tab:hover,
    .tab.held {
      background: var(--tide);
    }
    .said {
      position: absolute;
      left: 0;
      top: -66px;
      padding: 0 6px;
      translate: -50% 0;
      font-size: 11px;
      line-height: 18px;
      white-space: nowrap;
      color: var(--card);
      background: var(--ink);
    }
    .tag.lit {
      --paper: var(--ink);
      z-index: 1;
      color: var(--card);
    }
  `,
})
export class ShapeOverlay {
  readonly scene = input.required<BenchScene | null>();
  readonly tags = input.required<readonly PlaceOnScreen[]>();
  readonly tabs = input.required<readonly PlaceOnScreen[]>();
  protected readonly selection = inject(Selection);
  private readonly editor = inject(ShapeEditor);
  private readonly settings = inject(ViewSettingsStore);
  private readonly piece = toSignal(inject(BenchStore).piece$, { initialValue: null });
  private readonly document = toSignal(inject(ArtStore).shown$, { initialValue: null });
  protected readonly proposal = toSignal(inject(Proposals).proposal$, { requireSync: true });
  protected readonly pointed = toSignal(this.selection.pointed$, { requireSync: true });
  private readonly shapesDrag = toSignal(this.editor.drag$, { requireSync: true });
  /** several shapes are dragged while none of them is in the hand */
  private readonly drag = computed(() => this.inHand()?.drag ?? this.shapesDrag());
  protected readonly said = computed(() => this.drag()?.said ?? '');
  private readonly excess = toSignal(inject(DragExcess).excess$, { requireSync: true });
  protected readonly excessText = computed(() => {
    const excess = this.excess();
    return excess === null ? '' : `, stands out ${lengthText(excess)}`;
  });
  private readonly chosen = toSignal(this.editor.chosen$, { initialValue: [] });
  protected readonly inHand = toSignal(inject(InHand).inHand$, { initialValue: null });
  protected readonly turnHandle = TURN_HANDLE;
  protected readonly chosenIds = computed(() => new Set(this.chosen().map(({ id }) => id)));
  private readonly walking = toSignal(inject(HandWalkStore).walking$, { requireSync: true });
  private readonly driving = toSignal(inject(HandDriveStore).driving$, { requireSync: true });
  /** what was read back is only looked at */
  private readonly readBack = toSignal(inject(ViewMarks).readBack$);
  protected readonly numbers = computed(
    () =>
      new Map(
        numberedShapes({ proxies: this.readBack()?.shapes ?? this.document()?.proxies ?? [] }).map(
          ({ id, number }) => [id, number],
        ),
      ),
  );
  /** whoever is steered looks at the way */
  private readonly steered = computed(() => this.walking() !== null || this.driving() !== null);
  private readonly wanted = computed(() => {
    const pointed = this.pointed();
    return new Set([...this.chosenIds(), ...(pointed === null ? [] : [pointed])]);
  });
  private readonly inView = computed(() =>
    this.tags().filter(({ id, behind }) => !behind && (!this.steered() || this.wanted().has(id))),
  );
  /** the tags that have room; the others are dots until they are pointed at */
  private readonly roomy = computed(() => roomForTags(this.inView(), this.wanted()));
  protected readonly tagsWithRoom = computed(() => this.inView().filter(({ id }) => this.roomy().has(id)));
  protected readonly dots = computed(() => this.inView().filter(({ id }) => !this.roomy().has(id)));
  /** All dots in one line: an element each, hundreds of them, would be laid out again in every frame. */
  protected readonly dotsPath = computed(() =>
    this.dots()
      .map(({ x, y }) => `M${x.toFixed(1)} ${(y - DOT_ABOVE_PIXELS).toFixed(1)}h0`)
      .join(''),
  );
  protected readonly saidAt = computed(() => {
    const [drag, scene] = [this.drag(), this.scene()];
    const shape = drag?.shapes.values().next().value;
    if (!drag || !shape || !scene) return null;
    const at = labelPlace(
      shape,
      this.inHand()?.handles.find(({ id }) => id === drag.handle),
    );
    return scene.viewport.project({ id: 'said', at });
  });

  protected placed = ({ x, y }: PlaceOnScreen): string => `translate(${x}px, ${y}px)`;

  /** The shape whose dot is nearest to the pointer. */
  protected dotAt({ offsetX, offsetY }: PointerEvent): string {
    const far = ({ x, y }: PlaceOnScreen) => Math.hypot(x - offsetX, y - DOT_ABOVE_PIXELS - offsetY);
    return this.dots().reduce((nearest, dot) => (far(dot) < far(nearest) ? dot : nearest)).id;
  }

  /** A press on a tag chooses its shape; the tag of a chosen one drags all that are chosen. */
  protected grabShape(id: string, event: PointerEvent): void {
    if (this.readBack()) return;
    const scene = this.scene();
    if (event.button !== 0 || !scene) return;
    event.preventDefault();
    if (event.shiftKey || !this.chosenIds().has(id)) this.editor.choose(id, { more: event.shiftKey });
    const { chosen } = this.editor;
    const pressed = chosen.find((proxy) => proxy.id === id);
    if (!pressed) return;
    const others = chosen.filter((proxy) => proxy !== pressed);
    scene.viewport.grab(moveDrag(this.dragging(scene), [pressed, ...others]), event);
  }

  /** A press on the name of an opening chooses it; the name of the one in the hand drags it. */
  grabOpening(clearance: string, event: PointerEvent): void {
    const scene = this.scene();
    if (event.button !== 0 || !scene) return;
    event.preventDefault();
    this.selection.chooseClearance(clearance);
    const held = this.inHand()?.held;
    if (held) scene.viewport.grab(moveDrag(this.dragging(scene), [held]), event);
  }

  /** A tab drags its face, its corner, or turns the shape. */
  protected grabTab(id: string, event: PointerEvent): void {
    const [scene, inHand] = [this.scene(), this.inHand()];
    if (event.button !== 0 || !scene || !inHand) return;
    const tool = this.toolOf(id, inHand, this.dragging(scene, inHand.hand));
    if (!tool) return;
    event.preventDefault();
    scene.viewport.grab(tool, event);
  }

  protected titleOf(id: string): string {
    if (id === TURN_HANDLE) return 'Drag to turn; Alt turns freely';
    return id.startsWith('corner') ? 'Drag to grow; Alt drags freely' : '';
  }

  private toolOf(
    id: string,
    { held, handles, corners, parts }: InTheHand,
    dragging: ReturnType<ShapeOverlay['dragging']>,
  ): Tool | null {
    if (id === TURN_HANDLE) return turnDrag(dragging, [held], parts?.about);
    const corner = corners.find((each) => each.id === id);
    if (corner) return (parts ? growDrag : cornerDrag)(dragging, held, corner);
    const handle = handles.find((each) => each.id === id);
    return handle ? faceDrag(dragging, held, handle) : null;
  }

  private dragging(scene: BenchScene, hand: DragHand = this.editor) {
    const grid = this.piece()?.yard.rules.gridMetres ?? DEFAULT_GRID_METRES;
    const view = scene.dragView(this.settings.settings.snapMetres ?? grid);
    return { view, hand };
  }
}
