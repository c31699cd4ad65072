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
  readonly waiting$ = new BehaviorSubject<readonly Arrived[]>([]);
  /** what is to be compared with its piece: the intake step of that piece takes it from here */
  readonly toCompare$ = new BehaviorSubject<Arrived | null>(null);

  ask(arrived: Arrived): void {
    this.waiting$.next([...this.waiting$.value, arrived]);
  }

  answer(arrived: Arrived, compare: boolean): void {
    this.waiting$.next(this.waiting$.value.filter((each) => each !== arrived));
    if (compare) this.toCompare$.next(arrived);
  }
}
