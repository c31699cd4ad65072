import { inject, Injectable } from '@angular/core';
import {
  addProxies,
  anglesOfArt,
  applyEdit,
  changeClearance,
  changeProxies,
  type Clearance,
  clearanceShape,
  countText,
  documentFault,
  type Isometry,
  joinShapes,
  linkedCopies,
  MAX_PROXIES,
  mergeProxies,
  planesOfArt,
  planesOfShapes,
  type Proxy,
  type PutProxies,
  type Shape,
  type ShapeChange,
  type SnapPlane,
  unlinked,
  useProxies,
  type Vec3,
  withLinked,
} from '@yard-brace/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, shareReplay } from 'rxjs';
import type { ChooseHow } from '../drawing/face-selection';
import { ArtStore } from './art-store';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import { Proposals } from './proposals';
import { Selection } from './selection';
import { ViewSettingsStore } from './view-settings';

/** Shapes while they are dragged, and what is said beside the pointer. */
export interface ShapeDrag {
  shapes: ReadonlyMap<string, Shape>;
  /** the handle that is dragged; null when the whole shape is */
  handle: string | null;
  said: string;
  /** degrees that the shapes were turned by, while they are */
  turned?: number;
}

/** A shape, or an opening as its box. */
export type Held = Pick<Proxy, 'id' | 'shape'>;

/** Who is told of a drag by a tab, and says what catches it. */
export interface DragHand {
  planesAcross(direction: Readonly<Vec3>, dragged: ReadonlySet<string>): SnapPlane[];
  anglesAcross(axis: Readonly<Vec3>): number[];
  show(drag: ShapeDrag): void;
  drop(): void;
  cancel(): void;
}

/** Under which id an opening is dragged: shapes have others. */
export const heldId = ({ id }: Pick<Clearance, 'id'>): string => `opening ${id}`;

/** The handle that a shape is turned by. */
export const TURN_HANDLE = 'turn';

/** Shapes changed by hand: those that are chosen, and one drag of them at a time. */
@Injectable()
export class ShapeEditor implements DragHand {
  private readonly bench = inject(BenchStore);
  private readonly arts = inject(ArtStore);
  private readonly selection = inject(Selection);
  private readonly proposals = inject(Proposals);
  private readonly notices = inject(Notices);
  private readonly view = inject(ViewSettingsStore);
  private readonly now$ = new BehaviorSubject<ShapeDrag | null>(null);
  readonly drag$ = this.now$.asObservable();
  /** the chosen shapes as they are kept, but for locked ones; none while something is proposed */
  readonly chosen$ = combineLatest([
    this.bench.document$.pipe(
      map(({ proxies }) => proxies),
      distinctUntilChanged(),
    ),
    this.selection.selected$.pipe(
      map(({ proxies }) => proxies),
      distinctUntilChanged(),
    ),
    this.proposals.proposal$,
    this.view.settings$.pipe(
      map(({ shapesLocked }) => shapesLocked),
      distinctUntilChanged(),
    ),
  ]).pipe(
    map(([proxies, ids, proposal, locked]) =>
      proposal ? [] : proxies.filter(({ id }) => ids.has(id) && !locked.has(id)),
    ),
    distinctUntilChanged((a, b) => a.length === b.length && a.every((proxy, i) => proxy === b[i])),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  /** the one thing in the hand, as it is kept; null when it is none or several */
  readonly held$ = combineLatest([
    this.chosen$,
    this.bench.document$.pipe(
      map(({ clearances }) => clearances),
      distinctUntilChanged(),
    ),
    this.selection.selected$.pipe(
      map(({ clearance }) => clearance),
      distinctUntilChanged(),
    ),
    this.proposals.proposal$,
  ]).pipe(
    map(([[first, ...more], clearances, id, proposal]): Held | null => {
      if (first) return more.length ? null : first;
      const clearance = proposal ? null : clearances.find((each) => each.id === id);
      return clearance ? { id: heldId(clearance), shape: clearanceShape(clearance) } : null;
    }),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  get chosen(): readonly Proxy[] {
    if (this.proposals.proposal) return [];
    const { proxies } = this.selection.selected;
    const { shapesLocked } = this.view.settings;
    return this.bench.document.proxies.filter(({ id }) => proxies.has(id) && !shapesLocked.has(id));
  }

  /** Choose one shape instead of the others, or one more or less. */
  choose(id: string | null, { more = false } = {}): void {
    const before = this.selection.selected.proxies;
    if (id === null) {
      if (before.size && !more) this.selection.chooseProxies(new Set());
      return;
    }
    const ids = more ? new Set(before) : new Set<string>();
    if (more && ids.has(id)) ids.delete(id);
    else ids.add(id);
    this.selection.chooseProxies(ids);
  }

  chooseAll(ids: Iterable<string>, how: ChooseHow = 'only'): void {
    const chosen = how === 'only' ? new Set<string>() : new Set(this.selection.selected.proxies);
    for (const id of ids) {
      if (how === 'take') chosen.delete(id);
      else chosen.add(id);
    }
    this.selection.chooseProxies(chosen);
  }

  /** Copies of the chosen shapes elsewhere, which follow them from then on. */
  copyLinked(places: readonly Isometry[], { keep = false } = {}): void {
    const before = this.ids;
    this.putNew(linkedCopies(this.bench.document, before, places));
    // Mirrored twice, one becomes four: those that were chosen stay so beside their copies.
    if (keep) this.chooseAll(before, 'add');
  }

  /** The chosen shapes follow no others any more. */
  unlink(): void {
    this.put(unlinked(this.bench.document, this.ids));
  }

  /** To whom the chosen shapes belong and what they do; null takes a field away. */
  use(use: Parameters<typeof useProxies>[2]): void {
    this.put(useProxies(this.bench.document, this.ids, use));
  }

  /** Change each of the chosen shapes; what it falls into is chosen, too. */
  change(change: ShapeChange): void {
    const before = this.ids;
    this.putNew(changeProxies(this.bench.document, before, change), before);
  }

  /** Copies of each of the chosen shapes beside them: they are chosen instead. */
  copy(copiesOf: (shape: Shape) => readonly Shape[]): void {
    this.putNew(changeProxies(this.bench.document, this.ids, (shape) => [shape, ...copiesOf(shape)]));
  }

  add(shapes: readonly Shape[], part?: string): void {
    this.putNew(addProxies(this.bench.document, shapes, part));
  }

  /** The chosen shapes become the hull round them. */
  join(): void {
    const joined = joinShapes(
      this.chosen.map(({ shape }) => shape),
      { maxCorners: this.bench.profile.solids.maxHullVertices },
    );
    if (!joined)
      return this.notices.say('The chosen shapes are flat together; there is no hull round them.', true);
    this.put(mergeProxies(this.bench.document, this.ids, joined));
  }

  remove(): void {
    this.change(() => []);
  }

  show(drag: ShapeDrag): void {
    this.now$.next(drag);
  }

  /** What is dragged stays where it is: one step to undo. */
  drop(): void {
    const drag = this.now$.value;
    if (!drag) return;
    this.now$.next(null);
    const opening = this.bench.document.clearances.find((each) => drag.shapes.has(heldId(each)));
    if (opening) return this.putOpening(opening, drag.shapes.get(heldId(opening))!);
    this.put(
      changeProxies(this.bench.document, new Set(drag.shapes.keys()), (shape, { id }) => [
        drag.shapes.get(id) ?? shape,
      ]),
    );
  }

  cancel(): void {
    if (this.now$.value) this.now$.next(null);
  }

  /** What catches a drag along a direction: faces of the other shapes, and of the art. */
  planesAcross(direction: Readonly<Vec3>, dragged: ReadonlySet<string>): SnapPlane[] {
    const others = this.bench.document.proxies
      .map(({ id, shape }, i) => ({ id, shape, name: `face of ${i + 1}` }))
      .filter(({ id }) => !dragged.has(id));
    const art = this.arts.art?.art;
    return [
      ...planesOfShapes(direction, others),
      ...planesOfShapes(
        direction,
        this.bench.document.clearances
          .filter((clearance) => !dragged.has(heldId(clearance)))
          .map((clearance) => ({
            shape: clearanceShape(clearance),
            name: `side of “${clearance.name}”`,
          })),
      ),
      ...(art ? planesOfArt(direction, art, 'face of the art') : []),
    ];
  }

  /** Degrees about an axis at which a turned shape is square to the art. */
  anglesAcross(axis: Readonly<Vec3>): number[] {
    const art = this.arts.art?.art;
    return art ? anglesOfArt(axis, art) : [];
  }

  private putOpening({ id }: Clearance, shape: Shape): void {
    if (shape.kind !== 'box') return;
    const { center, halfExtents, rotation } = shape;
    this.bench.apply(changeClearance(this.bench.document, id, { center, halfExtents, rotation }));
  }

  private get ids(): ReadonlySet<string> {
    return new Set(this.chosen.map(({ id }) => id));
  }

  /** As `put`; what is new is in the hand then, beside those that stay in it. */
  private putNew(edit: PutProxies | null, staying: ReadonlySet<string> = new Set()): void {
    const before = new Set(this.bench.document.proxies.map(({ id }) => id));
    this.put(edit);
    const added = this.bench.document.proxies.filter(({ id }) => !before.has(id));
    if (added.length) this.selection.chooseProxies(new Set([...staying, ...added.map(({ id }) => id)]));
  }

  /** What could not be stored is not done, and said. */
  private put(made: PutProxies | null): void {
    if (!made) return;
    const edit = withLinked(this.bench.document, made);
    const after = applyEdit(this.bench.document, edit);
    if (after.proxies.length > MAX_PROXIES)
      return this.notices.say(
        `A piece has at most ${countText(MAX_PROXIES)} shapes, and this would make ${countText(after.proxies.length)}; make fewer.`,
        true,
      );
    if (documentFault(after, this.bench.document))
      return this.notices.say(
        'That would make a shape without size or place; the shapes stay as they were.',
        true,
      );
    this.bench.apply(edit);
  }
}
