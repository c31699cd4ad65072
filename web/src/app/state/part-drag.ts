import { inject, Injectable } from '@angular/core';
import {
  boundsOfParts,
  type BoxShape,
  centerOfParts,
  isEmpty,
  length,
  lengthText,
  NO_ROTATION,
  type OperationOf,
  type PieceDocument,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, shareReplay } from 'rxjs';
import { BenchStore } from './bench-store';
import { Operations } from './operations';
import { Proposals } from './proposals';
import { Selection } from './selection';
import { type DragHand, type Held, ShapeEditor, type ShapeDrag } from './shape-editor';
import { ViewSettingsStore } from './view-settings';

/** Chosen parts while they are dragged: where the operation would bring them. */
export interface PartShift extends Pick<OperationOf<'move'>, 'by' | 'turn' | 'about' | 'scale'> {
  /** ids */
  parts: readonly string[];
  /** what hangs below stays where it is */
  alone: boolean;
  /** what is caught, and how far it is; empty when it is said at the tab that is held */
  said: string;
  /** where the grabbed point is now */
  at: Vec3;
}

/** What the pointer is at: something that was caught, or a place in the plane of the drag. */
export interface DragPlace {
  at: Vec3;
  /** "vertex", "edge", "Coping 02, vertex"; null in the open */
  caught: string | null;
}

/** Parts dragged in the hand, as the box round them. */
const HELD_ID = 'parts';

/**
 * Parts dragged in the view: the grabbed point lands on what is caught; the tabs of the box round them turn them about
 * their pivot and grow them from the side across. One drag is one undo step.
 */
@Injectable()
export class PartDrag implements DragHand {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly selection = inject(Selection);
  private readonly editor = inject(ShapeEditor);
  private readonly view = inject(ViewSettingsStore);
  private readonly now$ = new BehaviorSubject<PartShift | null>(null);
  private readonly tab$ = new BehaviorSubject<ShapeDrag | null>(null);
  readonly shift$ = this.now$.asObservable();
  readonly drag$ = this.tab$.asObservable();

  /** the box round the chosen parts while they are dragged; null otherwise */
  readonly held$ = combineLatest([
    this.bench.document$,
    this.selection.selected$.pipe(
      map(({ parts }) => parts),
      distinctUntilChanged(),
    ),
    this.view.settings$.pipe(
      map(({ draggingParts }) => draggingParts),
      distinctUntilChanged(),
    ),
    inject(Proposals).proposal$,
  ]).pipe(
    map(([document, parts, dragging, proposal]): Held | null => {
      const shape = dragging && !proposal && parts.size ? boxRound(document, parts) : null;
      return shape && { id: HELD_ID, shape };
    }),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  planesAcross: DragHand['planesAcross'] = (direction, dragged) =>
    this.editor.planesAcross(direction, dragged);

  anglesAcross: DragHand['anglesAcross'] = (axis) => this.editor.anglesAcross(axis);

  /** What the chosen parts are turned about. */
  get about(): Vec3 {
    return centerOfParts(this.bench.document, [...this.selection.selected.parts]);
  }

  /** @param free nothing is caught, not even the grid */
  move(from: Vec3, to: DragPlace, free: boolean): void {
    const { gridMetres } = this.bench.piece.yard.rules;
    const open = to.caught === null && !free;
    // In the open the shift is in whole steps of a tenth of the grid.
    const step = gridMetres / 10;
    const by = subtract(to.at, from).map((v) =>
      open ? Number((Math.round(v / step) * step).toPrecision(12)) : v,
    ) as Vec3;
    const said = `${lengthText(length(by))}${to.caught ? `, ${to.caught}` : open ? ', grid' : ''}`;
    const at = from.map((v, k) => v + by[k]!) as Vec3;
    this.shift({ by, turn: [...NO_ROTATION], about: [0, 0, 0] }, { said, at });
  }

  /** The box round the parts as a tab makes it: turned, or grown from its other side. */
  show(drag: ShapeDrag): void {
    const start = boxRound(this.bench.document, this.selection.selected.parts);
    const now = drag.shapes.get(HELD_ID);
    if (!start || now?.kind !== 'box') return;
    const told = { said: '', at: now.center };
    if (drag.turned !== undefined) this.shift({ by: [0, 0, 0], turn: now.rotation, about: this.about }, told);
    else {
      const scale = now.halfExtents.map((half, k) => half / (start.halfExtents[k] || half)) as Vec3;
      const by = subtract(now.center, start.center);
      this.shift({ by, turn: [...NO_ROTATION], about: start.center, scale }, told);
    }
    this.tab$.next(drag);
  }

  async drop(): Promise<void> {
    const shift = this.now$.value;
    const stays =
      !shift || (length(shift.by) === 0 && shift.turn[3] === 1 && !shift.scale?.some((s) => s !== 1));
    if (stays) return this.cancel();
    const { parts, by, turn, about, scale, alone } = shift;
    await this.operations.make({
      op: 'move',
      parts: [...parts],
      by,
      turn,
      about,
      ...(scale ? { scale } : {}),
      ...(alone ? { alone } : {}),
    });
    this.cancel();
  }

  cancel(): void {
    if (this.now$.value) this.now$.next(null);
    if (this.tab$.value) this.tab$.next(null);
  }

  private shift(
    place: Pick<PartShift, 'by' | 'turn' | 'about' | 'scale'>,
    told: Pick<PartShift, 'said' | 'at'>,
  ): void {
    const { partsAlone: alone } = this.view.settings;
    this.now$.next({ parts: [...this.selection.selected.parts], alone, ...place, ...told });
  }
}

function boxRound(document: PieceDocument, parts: ReadonlySet<string>): BoxShape | null {
  const bounds = boundsOfParts(document, [...parts]);
  if (isEmpty(bounds)) return null;
  const center = bounds.min.map((v, k) => (v + bounds.max[k]!) / 2) as Vec3;
  const halfExtents = bounds.max.map((v, k) => v - center[k]!) as Vec3;
  return { kind: 'box', center, halfExtents, rotation: [...NO_ROTATION] };
}
