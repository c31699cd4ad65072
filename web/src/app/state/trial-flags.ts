import { Injectable } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';

export interface Flag {
  id: string;
  at: Vec3;
}

/** Places of a trial that are flagged in the view, numbered in their order. */
@Injectable()
export class TrialFlags {
  private readonly flagged$ = new BehaviorSubject<readonly Flag[]>([]);
  readonly flags$ = this.flagged$.asObservable();

  show(flags: readonly Flag[]): void {
    if (flags.length || this.flagged$.value.length) this.flagged$.next(flags);
  }
}
