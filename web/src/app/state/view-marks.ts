import { Injectable } from '@angular/core';
import {
  applyMatrix,
  artKey,
  invertMatrix,
  nodeById,
  type PieceDocument,
  placedMatrices,
  type Vec3,
} from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import type { ReadBackShapes } from './read-back-shapes';
import type { FaultLines } from '../workers/messages';

export type Tape = readonly [Vec3, Vec3];

/** A part swung on its hinge, or slid along its axis, for a look; `part` is empty for the piece. */
export interface Swing {
  part: string;
  degrees: number;
  /** for what slides */
  metres?: number;
}

/** What is laid over the view for a look: tapes, a swing, where a fault or a maximum is. None of it is part of the piece. */
@Injectable()
export class ViewMarks {
  private tapeParts: readonly (readonly [string, string])[] = [];
  private readonly laid$ = new BehaviorSubject<readonly Tape[]>([]);
  private readonly swung$ = new BehaviorSubject<Swing | null>(null);
  private readonly found$ = new BehaviorSubject<FaultLines | null>(null);
  private readonly read$ = new BehaviorSubject<ReadBackShapes | null>(null);
  /** what was read back, in the place of the piece's own shapes */
  readonly readBack$ = this.read$.asObservable();
  private readonly gone$ = new BehaviorSubject<Vec3 | null>(null);
  /** where the view was last asked to go, marked until something else is looked for */
  readonly place$ = this.gone$.asObservable();
  readonly tapes$ = this.laid$.asObservable();
  readonly swing$ = this.swung$.asObservable();
  readonly faults$ = this.found$.asObservable();

  /** @param parts ids of the parts that the ends lie on: they go along when those are moved */
  addTape(tape: Tape, parts: readonly [string, string] = ['', '']): void {
    this.tapeParts = [...this.tapeParts, parts];
    this.laid$.next([...this.laid$.value, tape]);
  }

  removeTape(number: number): void {
    this.tapeParts = this.tapeParts.filter((_, i) => i !== number);
    this.laid$.next(this.laid$.value.filter((_, i) => i !== number));
  }

  /** The piece has changed: tapes stay on the features that they were laid to. */
  follow(before: PieceDocument, after: PieceDocument): void {
    if (!this.laid$.value.length || artKey(before) === artKey(after)) return;
    this.laid$.next(
      this.laid$.value.map(
        (ends, i) =>
          ends.map((at, end) => carried(at, this.tapeParts[i]?.[end] ?? '', before, after)) as [Vec3, Vec3],
      ),
    );
  }

  swing(swing: Swing | null): void {
    if (swing || this.swung$.value) this.swung$.next(swing);
  }

  /** The view goes to a place of the piece and marks it; null takes the mark away. */
  goTo(at: Vec3 | null): void {
    if (at || this.gone$.value) this.gone$.next(at && [...at]);
  }

  showFaults(faults: FaultLines | null): void {
    if (faults || this.found$.value) this.found$.next(faults);
  }

  showReadBack(shapes: ReadBackShapes | null): void {
    if (shapes || this.read$.value) this.read$.next(shapes);
  }

  newPiece(): void {
    this.showReadBack(null);
    this.tapeParts = [];
    this.laid$.next([]);
    this.swing(null);
    this.goTo(null);
    this.showFaults(null);
  }
}

/** A place of a part where that part is now; it stays where it is when the part is gone, or has another mesh. */
function carried(at: Vec3, part: string, before: PieceDocument, after: PieceDocument): Vec3 {
  const [from, to] = [nodeById(before, part), nodeById(after, part)];
  if (from < 0 || to < 0 || before.nodes[from]!.mesh !== after.nodes[to]!.mesh) return at;
  const back = invertMatrix(placedMatrices(before)[from]!);
  return back ? applyMatrix(placedMatrices(after)[to]!, applyMatrix(back, at)) : at;
}
