import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';

/** A file that came for a piece that is there already, with what stands beside it. */
export interface Arrived {
  piece: number;
  name: string;
  file: File;
  beside: File[];
}

/** Where files wait that bear the name of one that came before: new art, or a piece of its own? */
@Injectable({ providedIn: 'root' })
export class NewArtDesk {
  private readonly asked$ = new BehaviorSubject<readonly Arrived[]>([]);
  private readonly next$ = new BehaviorSubject<Arrived | null>(null);
  readonly waiting$ = this.asked$.asObservable();
  /** what is to be compared with its piece: the bench of that piece takes it from here */
  readonly toCompare$ = this.next$.asObservable();

  ask(arrived: Arrived): void {
    this.asked$.next([...this.asked$.value, arrived]);
  }

  answer(arrived: Arrived, compare: boolean): void {
    this.asked$.next(this.asked$.value.filter((each) => each !== arrived));
    if (compare) this.next$.next(arrived);
  }

  /** What waits to be compared with a piece; it waits no longer. */
  take(piece: number): Arrived | null {
    const arrived = this.next$.value;
    if (arrived?.piece !== piece) return null;
    this.next$.next(null);
    return arrived;
  }
}
