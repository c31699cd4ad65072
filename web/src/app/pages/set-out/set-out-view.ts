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
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Placed, Vec3 } from '@yard-brace/core';
import type { PlaceOnScreen } from '../../drawing/place-on-screen';
import { roomForTags } from '../../drawing/room-for-tags';
import { Notices } from '../../state/notices';
import { Picking } from '../../state/picking';
import { SetOutArt } from '../../state/set-out-art';
import { SetOutCheck } from '../../state/set-out-check';
import { IN_HAND, SetOutDrag } from '../../state/set-out-drag';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutPlaced } from '../../state/set-out-placed';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { TrialPlayer } from '../../state/trial-player';
import { type CaughtPoint, PickPointTool } from '../../viewport/tools/pick-point-tool';
import type { ScreenPoint } from '../../viewport/tool';
import { ArrangeTool } from './arrange-tool';
import { type CatchOptions, catchPlace, pointedPlace } from './catch-place';
import { followWalk } from './follow-walk';
import { SetOutScene } from './set-out-scene';

/** Room over what is fitted that the bar takes, CSS pixels. */
const BAR_PIXELS = 52;
const CLEAR_PIXELS = 16;
/** How wide a letter of a name is, and what stands round it, CSS pixels. */
const LETTER_PIXELS = 6;
const LABEL_PIXELS = 10;
/** Change of its shape by which a view is fitted anew. */
const REFIT_SHARE = 0.3;

/** What a test can ask of the canvas: where a placement can be pointed at. */
export interface ProbedSetOutCanvas extends HTMLCanvasElement {
  /** CSS pixels of the page, by what the placement is called */
  placeOf?: (name: string) => { x: number; y: number } | null;
  /** CSS pixels of the page of a place in metres */
  pixelOf?: (at: Vec3) => { x: number; y: number };
}

/** One view of a set-out: a plan from above, or the free view. */
@Component({
  selector: 'yb-set-out-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      role="img"
      [attr.aria-label]="plan() ? 'Plan of the set-out' : 'View of the set-out'"
      [attr.data-testid]="plan() ? 'plan' : 'set-view'"
    ></canvas>
    <div class="tags" aria-hidden="true">
      @for (label of labels(); track label.id) {
        @if (roomy().has(label.id)) {
          <span
            class="label"
            [class.chosen]="ids().has(label.id)"
            [style.transform]="'translate(' + label.x + 'px, ' + label.y + 'px)'"
            >{{ nameOf(label.id) }}</span
          >
        }
      }
      @for (flag of flags(); track flag.id) {
        @if (!flag.behind) {
          <span class="flag figures" [style.transform]="'translate(' + flag.x + 'px, ' + flag.y + 'px)'">{{
            $index + 1
          }}</span>
        }
      }
    </div>
    @if (plan()) {
      <span class="north" aria-hidden="true">N</span>
    }
  `,
  styleUrls: ['../../viewport/view.css', './set-out-view.css'],
})
export class SetOutView implements OnDestroy {
  readonly plan = input.required<boolean>();
  private readonly store = inject(SetOutStore);
  private readonly placing = inject(SetOutPlaced);
  private readonly selection = inject(SetOutSelection);
  private readonly drag = inject(SetOutDrag);
  private readonly picking = inject(Picking);
  private readonly looks = inject(SetOutLookStore);
  private readonly notices = inject(Notices);
  private readonly arts = toSignal(inject(SetOutArt).arts$, { requireSync: true });
  private readonly placed = toSignal(this.placing.placed$, { initialValue: [] });
  private readonly look = toSignal(this.looks.look$, { requireSync: true });
  private readonly chosen = toSignal(this.selection.chosen$, { initialValue: [] });
  private readonly pointed = toSignal(this.selection.pointed$, { initialValue: null });
  private readonly dragged = toSignal(this.drag.dragged$, { requireSync: true });
  private readonly hand = toSignal(this.drag.inHand$, { requireSync: true });
  private readonly asked = toSignal(this.picking.asked$, { requireSync: true });
  private readonly pickedPoint = toSignal(this.picking.point$, { requireSync: true });
  private readonly playing = toSignal(inject(TrialPlayer).playing$, { requireSync: true });
  private readonly goTo = toSignal(this.looks.goTo$, { requireSync: true });
  private readonly faults = toSignal(inject(SetOutCheck).faults$, { initialValue: [] });
  protected readonly names = toSignal(this.store.names$, { initialValue: new Map<string, string>() });
  protected readonly ids = computed(() => new Set(this.chosen().map(({ id }) => id)));
  private readonly inHandPiece = computed(() => this.hand()?.placement.piece ?? null);
  protected readonly labels = signal<readonly PlaceOnScreen[]>([]);
  /** names that have room: of what is pointed at always, and of what is chosen before the rest */
  protected readonly roomy = computed(() => {
    const [ids, pointed] = [this.ids(), this.pointed()];
    const first = [...this.labels()].sort((a, b) => Number(ids.has(b.id)) - Number(ids.has(a.id)));
    return roomForTags(
      first,
      new Set([IN_HAND, ...(pointed === null ? [] : [pointed])]),
      (id) => this.nameOf(id).length * LETTER_PIXELS + LABEL_PIXELS,
    );
  });
  protected readonly flags = signal<readonly PlaceOnScreen[]>([]);
  private readonly canvas = viewChild.required<ElementRef<ProbedSetOutCanvas>>('canvas');
  private readonly scene = signal<SetOutScene | null>(null);
  private readonly sizes = new ResizeObserver(() => this.resize());
  /** the set-out that was seen whole */
  private fitted: number | null = null;
  private readonly complete = toSignal(this.store.complete$, { requireSync: true });
  private aspect = 1;

  constructor() {
    afterNextRender(() => this.open());
    effect(() => this.scene()?.placed.setArts(this.arts()));
    effect(() => {
      const scene = this.scene();
      const placed = this.placed();
      this.inHandPiece();
      const hand = untracked(() => this.hand());
      if (!scene) return;
      scene.placed.set(hand ? [...placed, hand] : placed);
      scene.layGround();
      // Each set-out is seen whole once, when its pieces have come; the first piece that is put moves no view.
      const id = this.complete();
      if (id === null || this.fitted === id) return;
      this.fitted = id;
      scene.fit();
      this.canvas().nativeElement.dataset['seen'] = String(id);
    });
    effect(() => {
      const hand = this.hand();
      if (hand) this.scene()?.placed.moveTo([hand]);
    });
    effect(() => {
      const moved = this.dragged()?.moved;
      const scene = this.scene();
      if (moved) scene?.placed.moveTo(moved);
      // A drag that is given up leaves everything where it was.
      else
        scene?.placed.moveTo(
          untracked(() => this.placed()).filter(({ placement }) => this.ids().has(placement.id)),
        );
    });
    effect(() => {
      this.scene()?.placed.light({
        chosen: this.hand() ? new Set([IN_HAND]) : this.ids(),
        pointed: this.pointed(),
        faulty: new Set(
          this.faults()
            .filter(({ words }) => words.severity === 'error')
            .flatMap(({ fault }) => ('b' in fault ? [fault.a, fault.b] : [fault.a])),
        ),
      });
    });
    effect(() => {
      const { veil, cut, hidden } = this.look();
      const scene = this.scene();
      if (!scene) return;
      scene.placed.show({
        art: veil > 0.5 ? 2 - 2 * veil : 1,
        shapes: Math.min(1, 2 * veil),
        plan: scene.plan,
      });
      scene.placed.hide(hidden);
      scene.cutAbove(cut);
    });
    effect(() => {
      const by = this.dragged()?.by;
      const first = this.drag.moving[0]?.placement.position;
      const point = this.pickedPoint();
      const lines: [Vec3, Vec3][] = by && first ? [[first, first.map((v, k) => v + by[k]!) as Vec3]] : [];
      this.scene()?.mark(point ? [point] : [], lines);
    });
    effect(() => {
      const scene = this.scene();
      if (!scene) return;
      this.useTool(scene, this.asked() !== null);
    });
    effect(() => {
      const to = this.goTo();
      if (to) untracked(() => this.bring(to.ids, to.at));
    });
    effect(() => {
      const scene = this.scene();
      const now = this.playing();
      const played = now?.run.played;
      scene?.played.set(now && played ? { ...now.run, played, proxies: [] } : null);
      if (now && played) scene?.played.showFrame(now.frame);
    });
    followWalk({ scene: this.scene, focus: () => this.canvas().nativeElement.focus() });
  }

  ngOnDestroy(): void {
    this.sizes.disconnect();
    this.scene()?.dispose();
  }

  protected nameOf(id: string): string {
    return this.names().get(id) ?? 'in the hand';
  }

  private open(): void {
    const canvas = this.canvas().nativeElement;
    let scene: SetOutScene;
    try {
      scene = new SetOutScene(canvas, this.store.rules.gridMetres, this.plan());
    } catch {
      this.notices.say('This browser gives no WebGL, so there is no view; everything else works.', true);
      return;
    }
    scene.viewport.onFrame = (places) => {
      this.labels.set(places.get(scene.placed) ?? []);
      this.flags.set(places.get(scene.trial) ?? []);
    };
    canvas.pixelOf = (at) => this.onPage(scene.viewport.onScreen(at));
    canvas.placeOf = (name) => this.placeOf(scene, name);
    this.sizes.observe(canvas);
    this.scene.set(scene);
    this.resize();
  }

  private bring(ids: readonly string[], at: Vec3 | null): void {
    const scene = this.scene();
    if (at) scene?.lookAt(at);
    else scene?.fit(this.placed().filter(({ placement }) => ids.includes(placement.id)));
  }

  private resize(): void {
    const { clientWidth, clientHeight } = this.canvas().nativeElement;
    const viewport = this.scene()?.viewport;
    if (!viewport) return;
    const { bottom } = viewport.rig.insets;
    viewport.rig.insets = { top: BAR_PIXELS, bottom: Math.max(bottom, CLEAR_PIXELS) };
    viewport.resize(clientWidth, clientHeight);
    // A view that is much wider or narrower than it was shows everything again.
    const aspect = clientWidth / Math.max(1, clientHeight);
    if (Math.abs(aspect / this.aspect - 1) > REFIT_SHARE) this.scene()?.fit();
    this.aspect = aspect;
  }

  private useTool(scene: SetOutScene, picks: boolean): void {
    scene.viewport.use(
      picks
        ? new PickPointTool({
            snap: (at) => this.pointAt(scene, at),
            hover: (point) => this.picking.hover(point?.at ?? null, point?.kind ?? ''),
            pick: (point) => this.picking.pick({ ...point, part: point.beside ?? '' }),
          })
        : new ArrangeTool({
            pick: (at) => scene.placed.pick(scene.viewport.rayAt(at)),
            catchAt: (at, free) => this.catchAt(scene, at, free),
            onScreen: (at) => scene.viewport.onScreen(at),
            selection: this.selection,
            drag: this.drag,
          }),
    );
  }

  private catchAt(scene: SetOutScene, at: ScreenPoint, free: boolean) {
    const moving = this.drag.inHand ? [this.drag.inHand] : this.drag.moving;
    const grabbed = moving[0];
    return grabbed
      ? catchPlace(at, grabbed, this.options(scene, moving, free), (id) => this.names().get(id) ?? id)
      : null;
  }

  private options(scene: SetOutScene, moving: readonly Placed[], free: boolean): CatchOptions {
    const ids = new Set(moving.map(({ placement }) => placement.id));
    return {
      viewport: scene.viewport,
      layer: scene.placed,
      others: this.placed().filter(({ placement }) => !ids.has(placement.id)),
      moving: ids,
      gridMetres: this.look().gridMetres ?? this.store.rules.gridMetres,
      plan: scene.plan,
      free,
    };
  }

  private pointAt(scene: SetOutScene, at: ScreenPoint): CaughtPoint | null {
    const found = pointedPlace(at, 0, { ...this.options(scene, [], false), plan: false });
    if (!found) return null;
    const { at: place, on } = found;
    return {
      kind: on?.kind ?? 'ground',
      at: place,
      normal: [0, 1, 0],
      edge: [place, place],
      part: -1,
      ...(on ? { beside: on.id } : {}),
    };
  }

  private onPage([x, y]: readonly [number, number]): { x: number; y: number } {
    const corner = this.canvas().nativeElement.getBoundingClientRect();
    return { x: corner.left + x, y: corner.top + y };
  }

  private placeOf(scene: SetOutScene, name: string): { x: number; y: number } | null {
    const id = [...this.names()].find(([, each]) => each === name)?.[0];
    const placed = this.placed().find(({ placement }) => placement.id === id);
    if (!placed) return null;
    const { min, max } = placed.bounds;
    // The first of a few places of its bounds at which it is what the pointer meets.
    for (const [sx, sy, sz] of PROBES) {
      const at = [sx, sy, sz].map((s, k) => min[k]! + (max[k]! - min[k]!) * s!) as Vec3;
      const screen = scene.viewport.onScreen(at);
      if (scene.placed.pick(scene.viewport.rayAt(screen))?.id === id) return this.onPage(screen);
    }
    return null;
  }
}

const PROBES: readonly (readonly number[])[] = [0.5, 0.9, 0.1, 0.3, 0.7].flatMap((y) =>
  [0.5, 0.3, 0.7, 0.15, 0.85].flatMap((x) => [0.5, 0.3, 0.7, 0.1, 0.9].map((z) => [x, y, z])),
);
