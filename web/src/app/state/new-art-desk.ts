import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';

/** A file that came for pieces that are there already, with what stands beside it. */
export interface Arrived {
  /** those that came from a file of its name; several where that was split */
  pieces: readonly { id: number; name: string }[];
  file: File;
  beside: File[];
}

/** A file that is to be compared with one piece. */
export type ToCompare = Pick<Arrived, 'file' | 'beside'> & { piece: number };

/** Where files wait that bear the name of one that came before: new art, or a piece of its own? */
@Injectable({ providedIn: 'root' })
export class NewArtDesk {
  private readonly asked$ = new BehaviorSubject<readonly Arrived[]>([]);
  private readonly next$ = new BehaviorSubject<ToCompare | null>(null);
  readonly waiting$ = this.asked$.asObservable();
  /** what is to be compared with its piece: the bench of that piece takes it from here */
  readonly toCompare$ = this.next$.asObservable();

  ask(arrived: Arrived): void {
    this.asked$.next([...this.asked$.value, arrived]);
  }

  /** Compare it with one of its pieces; for the others it goes on waiting. */
  compare(arrived: Arrived, piece: number): void {
    const { file, beside } = arrived;
    const pieces = arrived.pieces.filter(({ id }) => id !== piece);
    this.asked$.next(
      this.asked$.value.flatMap((each) => {
        if (each !== arrived) return [each];
        return pieces.length ? [{ ...arrived, pieces }] : [];
      }),
    );
    this.next$.next({ piece, file, beside });
  }

  dismiss(arrived: Arrived): void {
    this.asked$.next(this.asked$.value.filter((each) => each !== arrived));
  }

  /** What waits to be compared with a piece; it waits no longer. */
  take(piece: number): ToCompare | null {
    const arrived = this.next$.value;
    if (arrived?.piece !== piece) return null;
    this.next$.next(null);
    return arrived;
  }
}
