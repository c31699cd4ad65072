import { Injectable } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import type { ReadBackShapes } from './read-back-shapes';
import type { FaultLines } from '../workers/messages';

export type Tape = readonly [Vec3, Vec3];

/** A part swung on its hinge for a look; `part` is empty for the piece. */
export interface Swing {
  part: string;
  degrees: number;
}

/** What is laid over the view for a look: tapes, a swing, where a fault or a maximum is. None of it is part of the piece. */
@Injectable()
export class ViewMarks {
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

  addTape(tape: Tape): void {
    this.laid$.next([...this.laid$.value, tape]);
  }

  removeTape(number: number): void {
    this.laid$.next(this.laid$.value.filter((_, i) => i !== number));
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
    this.laid$.next([]);
    this.swing(null);
    this.goTo(null);
    this.showFaults(null);
  }
}
