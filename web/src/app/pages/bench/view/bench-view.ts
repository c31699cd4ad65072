import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  type OnDestroy,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ArtStore } from '../../../state/art-store';
import { BenchStore } from '../../../state/bench-store';
import { Notices } from '../../../state/notices';
import { PartDrag } from '../../../state/part-drag';
import { Picking } from '../../../state/picking';
import { Proposals } from '../../../state/proposals';
import { Selection } from '../../../state/selection';
import { ShapeEditor } from '../../../state/shape-editor';
import { ViewMarks } from '../../../state/view-marks';
import { ViewSettingsStore } from '../../../state/view-settings';
import type { FaceHit } from '../../../viewport/layers/art-layer';
import type { Label } from '../../../viewport/layers/marks-layer';
import type { ScreenPoint } from '../../../viewport/tool';
import type { PlaceOnScreen } from '../../../drawing/place-on-screen';
import { BenchScene, CLEAR_PIXELS } from './bench-scene';
import { bindScene, sameFields } from './bind-scene';
import { bindTool } from './bind-tool';
import { bindTrial } from './bind-trial';
import { CutBar } from './cut-bar';
import { DeviationLegend } from './deviation-legend';
import { UvLegend } from './uv-legend';
import { PickPrompt } from '../../../ui/pick-prompt';
import { ProposalBar } from './proposal-bar';
import { DEFAULT_GRID_METRES, ShapeOverlay } from './shape-overlay';
import { marksOf, numberedShapes, withDraggedOpenings } from './shown-marks';
import { DriveBar } from '../../../ui/drive-bar';
import { PlayBar } from '../../../ui/play-bar';
import { WalkBar } from '../../../ui/walk-bar';
import { ViewBar } from './view-bar';
import { bindViewKeys } from './view-keys';

/** What a test can ask of the canvas: where something can be clicked. */
export interface ProbedCanvas extends HTMLCanvasElement {
  /** CSS pixels of the page; none when nothing of the part, or of the material, is seen */
  placesOf?: (name: string) => { x: number; y: number }[];
}

/** The view of the bench: composes its layers and tools, and what lies over them. */
@Component({
  selector: 'yb-bench-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ViewBar,
    CutBar,
    DeviationLegend,
    UvLegend,
    PickPrompt,
    ProposalBar,
    ShapeOverlay,
    PlayBar,
    WalkBar,
    DriveBar,
  ],
  template: `
    <canvas #canvas tabindex="0" role="img" aria-label="View of the piece" data-testid="view"></canvas>
    @if (area().length > 1) {
      <svg class="area" aria-hidden="true"><polygon [attr.points]="areaPoints()" /></svg>
    }
    <yb-shape-overlay [scene]="scene()" [tags]="tags()" [tabs]="tabs()" aria-hidden="true" />
    <div class="tags" aria-hidden="true">
      @for (label of labelPlaces(); track label.id) {
        @if (!label.behind) {
          <span
            class="label figures"
            [class.opening]="labels()[+label.id]?.clearance"
            [style.transform]="placed(label)"
            (pointerdown)="grabLabel(labels()[+label.id]?.clearance, $event)"
            >{{ labels()[+label.id]?.text }}</span
          >
        }
      }
      @for (flag of flags(); track flag.id) {
        @if (!flag.behind) {
          <span class="flag figures" [style.transform]="placed(flag)">{{ $index + 1 }}</span>
        }
      }
      @if (handle(); as handle) {
        <span
          class="handle"
          title="Drag the cut"
          [style.transform]="placed(handle)"
          (pointerdown)="grabCut($event)"
          data-testid="cut-handle"
          >cut</span
        >
      }
    </div>
    <yb-view-bar #bar (fit)="fit()" />
    @if (!art()) {
      <p class="waiting faded" role="status">{{ waiting() }}</p>
    }
    <div class="foot" #foot>
      <span class="left">
        <yb-deviation-legend [shapes]="shapes().length" />
        <yb-uv-legend />
        <yb-cut-bar />
      </span>
      <yb-pick-prompt />
      <yb-proposal-bar />
      <yb-play-bar />
      <yb-walk-bar />
      <yb-drive-bar />
    </div>
  `,
  styleUrls: ['../../../viewport/view.css', './bench-view.css'],
})
export class BenchView implements OnDestroy {
  private readonly view = inject(ViewSettingsStore);
  private readonly arts = inject(ArtStore);
  private readonly notices = inject(Notices);
  protected readonly selection = inject(Selection);
  /** what of the art is under the pointer, for the reading line */
  readonly hit = output<FaceHit | null>();

  private readonly bench = inject(BenchStore);
  private readonly piece = toSignal(this.bench.piece$, { initialValue: null });
  private readonly document = toSignal(this.arts.shown$, { initialValue: null });
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly point = toSignal(inject(Picking).point$, { requireSync: true });
  private readonly pointWord = toSignal(inject(Picking).caughtWord$, { requireSync: true });
  private readonly tapes = toSignal(inject(ViewMarks).tapes$, { requireSync: true });
  private readonly selected = toSignal(this.selection.selected$, { requireSync: true });
  private readonly shift = toSignal(inject(PartDrag).shift$, { requireSync: true });
  private readonly place = toSignal(inject(ViewMarks).place$, { requireSync: true });
  protected readonly proposal = toSignal(inject(Proposals).proposal$, { requireSync: true });
  protected readonly pointed = toSignal(this.selection.pointed$, { requireSync: true });
  private readonly drag = toSignal(inject(ShapeEditor).drag$, { requireSync: true });
  protected readonly art = toSignal(this.arts.art$, { requireSync: true });
  protected readonly waiting = toSignal(this.arts.waiting$, { requireSync: true });

  protected readonly shapes = computed(() => numberedShapes(this.document() ?? { proxies: [] }));
  protected readonly numbers = computed(() => new Map(this.shapes().map(({ id, number }) => [id, number])));
  /** what of the settings is drawn as marks: the rest of them draws none anew */
  private readonly marked = computed(
    () => {
      const { pivots, dimensions, forward } = this.settings();
      return { pivots, dimensions, forward };
    },
    { equal: sameFields },
  );
  private readonly marks = computed(() => {
    const document = withDraggedOpenings(this.document(), this.drag()?.shapes);
    const { pivots, dimensions, forward } = this.marked();
    const agents = this.piece()?.yard.rules.agents ?? [];
    return (
      document &&
      marksOf({
        margin: this.piece()?.yard.rules.openings.marginMetres ?? 0,
        document,
        agents,
        tapes: this.tapes(),
        point: this.point(),
        pointWord: this.pointWord(),
        place: this.place(),
        chosen: this.selected().proxies,
        pivots,
        dimensions,
        shift: this.shift(),
        front: forward ? this.bench.profile.space.forward.toUpperCase() : null,
      })
    );
  });
  protected readonly labels = computed((): readonly Label[] => this.marks()?.labels ?? []);
  private readonly flipped = signal(false);
  private readonly veil = computed(() => {
    const { veil } = this.settings();
    return this.flipped() ? (veil < 0.5 ? 1 : 0) : veil;
  });

  protected readonly tabs = signal<readonly PlaceOnScreen[]>([]);
  protected readonly tags = signal<readonly PlaceOnScreen[]>([]);
  protected readonly labelPlaces = signal<readonly PlaceOnScreen[]>([]);
  protected readonly flags = signal<readonly PlaceOnScreen[]>([]);
  protected readonly handle = signal<PlaceOnScreen | null>(null);
  protected readonly area = signal<readonly ScreenPoint[]>([]);
  protected readonly areaPoints = computed(() =>
    this.area()
      .map((point) => point.join())
      .join(' '),
  );

  private readonly canvas = viewChild.required<ElementRef<ProbedCanvas>>('canvas');
  private readonly overlay = viewChild.required(ShapeOverlay);
  private readonly bar = viewChild.required('bar', { read: ElementRef });
  readonly scene = signal<BenchScene | null>(null);
  private readonly sizes = new ResizeObserver(() => this.resize());

  constructor() {
    bindScene({ scene: this.scene, marks: this.marks, veil: this.veil });
    bindTool({ scene: this.scene, read: (hit) => this.hit.emit(hit) });
    bindTrial({ scene: this.scene, focus: () => this.canvas().nativeElement.focus() });
    bindViewKeys({
      fit: () => this.fit(),
      flip: (flipped) => this.flipped.set(flipped),
      leaveDrag: () => this.scene()?.viewport.key(new KeyboardEvent('keydown', { key: 'Escape' })) ?? false,
    });
    afterNextRender(() => this.open());
  }

  ngOnDestroy(): void {
    this.sizes.disconnect();
    this.scene()?.dispose();
  }

  protected placed = ({ x, y }: PlaceOnScreen): string => `translate(${x}px, ${y}px)`;

  protected fit(): void {
    this.scene()?.fit();
  }

  protected grabCut(event: PointerEvent): void {
    const [scene, cut] = [this.scene(), this.settings().cut];
    if (!scene || !cut) return;
    event.preventDefault();
    const move = (share: number) => this.view.setCut({ at: (this.settings().cut?.at ?? 0) + share });
    scene.viewport.grab(scene.cutTool(cut.axis, move), event);
  }

  protected grabLabel(clearance: string | undefined, event: PointerEvent): void {
    if (clearance) this.overlay().grabOpening(clearance, event);
  }

  private open(): void {
    const canvas = this.canvas().nativeElement;
    let scene: BenchScene;
    try {
      scene = new BenchScene(canvas, this.piece()?.yard.rules.gridMetres ?? DEFAULT_GRID_METRES);
    } catch {
      this.notices.say('This browser gives no WebGL, so there is no view; everything else works.', true);
      return;
    }
    const { viewport, proxies, marks, cut } = scene;
    viewport.onFrame = (places) => {
      this.tags.set(places.get(proxies) ?? []);
      this.tabs.set(places.get(scene.handles) ?? []);
      this.labelPlaces.set(places.get(marks) ?? []);
      this.flags.set(places.get(scene.trial) ?? []);
      const corners = places.get(cut) ?? [];
      // The handle stands at the corner of the outline that is highest on the screen.
      this.handle.set(
        corners.reduce<PlaceOnScreen | null>((top, each) => (top && top.y <= each.y ? top : each), null),
      );
    };
    viewport.onOverlay = (line) => this.area.set(line);
    canvas.placesOf = (name) => this.placesOf(scene, name);
    this.sizes.observe(canvas);
    this.sizes.observe(this.bar().nativeElement);
    this.scene.set(scene);
    this.resize();
  }

  /** What is fitted keeps clear of the bar over the view. */
  private resize(): void {
    const { clientWidth, clientHeight } = this.canvas().nativeElement;
    const bar = this.bar().nativeElement;
    const viewport = this.scene()?.viewport;
    if (!viewport) return;
    const { bottom } = viewport.rig.insets;
    viewport.rig.insets = {
      top: bar.offsetTop + bar.offsetHeight + CLEAR_PIXELS,
      bottom: Math.max(bottom, CLEAR_PIXELS),
    };
    viewport.resize(clientWidth, clientHeight);
  }

  private placesOf(scene: BenchScene, name: string): { x: number; y: number }[] {
    const drawn = this.arts.art;
    if (!drawn) return [];
    const { art, document } = drawn;
    const part = document.nodes.findIndex((node) => node.name === name);
    const material = document.materials.findIndex((each) => each.name === name);
    const ranges = art.groups.filter((group) => group.material === material);
    const wanted = (f: number) =>
      part < 0 ? ranges.some(({ start, count }) => f >= start && f < start + count) : art.part[f] === part;
    const corner = this.canvas().nativeElement.getBoundingClientRect();
    return scene.placesOf(wanted).map(([x, y]) => ({ x: corner.left + x, y: corner.top + y }));
  }
}
