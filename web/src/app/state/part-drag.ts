import { inject, Injectable } from '@angular/core';
import { length, lengthText, NO_ROTATION, type Quat, subtract, type Vec3 } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { BenchStore } from './bench-store';
import { Operations } from './operations';
import { Selection } from './selection';

/** Chosen parts while they are dragged. */
export interface PartShift {
  /** ids; what hangs below goes along */
  parts: ReadonlySet<string>;
  by: Vec3;
  /** what is caught, and how far it is */
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

/** Parts dragged in the view: the grabbed point lands on what is caught; one drag is one undo step. */
@Injectable()
export class PartDrag {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly selection = inject(Selection);
  private readonly now$ = new BehaviorSubject<PartShift | null>(null);
  readonly shift$ = this.now$.asObservable();

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
    this.now$.next({ parts: this.selection.selected.parts, by, said, at });
  }

  async drop(): Promise<void> {
    const shift = this.now$.value;
    if (!shift || length(shift.by) === 0) return this.cancel();
    await this.operations.make({
      op: 'move',
      parts: [...shift.parts],
      by: shift.by,
      turn: [...NO_ROTATION] as Quat,
      about: [0, 0, 0],
    });
    this.cancel();
  }

  cancel(): void {
    if (this.now$.value) this.now$.next(null);
  }
}
