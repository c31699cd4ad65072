import { inject, Injectable } from '@angular/core';
import {
  type CornerHandle,
  cornerHandles,
  type Shape,
  type ShapeHandle,
  shapeHandles,
  type Vec3,
} from '@yard-brace/core';
import { combineLatest, map, shareReplay } from 'rxjs';
import { PartDrag } from './part-drag';
import { type DragHand, type Held, type ShapeDrag, ShapeEditor } from './shape-editor';

/** Tabs of one shape: those of a hull's largest faces. */
const MAX_TABS = 24;

/** What has tabs in the view. */
export interface InTheHand {
  held: Held;
  /** who is told of a drag */
  hand: DragHand;
  drag: ShapeDrag | null;
  /** as it is while it is dragged */
  shape: Shape;
  /** the faces and radii by which it is dragged */
  handles: readonly ShapeHandle[];
  /** the corners by which a box is grown; those of other kinds would hang in the air */
  corners: readonly CornerHandle[];
  /** parts turn about their pivot, and a corner grows all their sides alike */
  parts: { about: Vec3 } | null;
}

/** The one thing in the hand: the chosen parts while they are dragged, or a shape or an opening. */
@Injectable()
export class InHand {
  private readonly editor = inject(ShapeEditor);
  private readonly parts = inject(PartDrag);
  readonly inHand$ = combineLatest([
    this.parts.held$,
    this.parts.drag$,
    this.editor.held$,
    this.editor.drag$,
  ]).pipe(
    map(([parts, partsDrag, shape, shapeDrag]): InTheHand | null => {
      if (parts) return inTheHand(parts, this.parts, partsDrag, { about: this.parts.about });
      return shape && inTheHand(shape, this.editor, shapeDrag, null);
    }),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
}

function inTheHand(held: Held, hand: DragHand, drag: ShapeDrag | null, of: InTheHand['parts']): InTheHand {
  const shape = drag?.shapes.get(held.id) ?? held.shape;
  return {
    held,
    hand,
    drag,
    shape,
    handles: shapeHandles(shape).slice(0, MAX_TABS),
    corners: shape.kind === 'box' ? cornerHandles(shape) : [],
    parts: of,
  };
}
