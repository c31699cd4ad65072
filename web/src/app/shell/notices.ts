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
    // What is said again is one sentence, and none goes before the person has dismissed it.
    const others = this.notices$.value.filter((notice) => notice.text !== text);
    this.notices$.next([...others, { id: this.next++, text, bad }]);
  }

  error(error: unknown): void {
    this.say(sentenceOf(error), true);
  }

  putAway(id: number): void {
    this.notices$.next(this.notices$.value.filter((notice) => notice.id !== id));
  }
}
