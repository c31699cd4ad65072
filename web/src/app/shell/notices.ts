import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';
import { sentenceOf } from './told';

export interface Notice {
  id: number;
  text: string;
  bad: boolean;
}

/** Sentences that a page shows until they are put away: they lie at the foot and block nothing. */
@Injectable({ providedIn: 'root' })
export class Notices {
  readonly notices$ = new BehaviorSubject<readonly Notice[]>([]);
  private next = 1;

  say(text: string, bad = false): void {
    this.notices$.next([...this.notices$.value.slice(-5), { id: this.next++, text, bad }]);
  }

  error(error: unknown): void {
    this.say(sentenceOf(error), true);
  }

  putAway(id: number): void {
    this.notices$.next(this.notices$.value.filter((notice) => notice.id !== id));
  }
}
