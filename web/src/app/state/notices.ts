import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';
import { sentenceOf } from '../api/told';

export interface Notice {
  id: number;
  text: string;
  bad: boolean;
}

/** Sentences that a page shows until they are dismissed: they lie at the foot and block nothing. */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly all$ = new BehaviorSubject<readonly Notice[]>([]);
  readonly notices$ = this.all$.asObservable();
  private next = 1;

  get notices(): readonly Notice[] {
    return this.all$.value;
  }

  say(text: string, bad = false): void {
    // What is said again is one sentence, and none goes before the person has dismissed it.
    const others = this.notices.filter((notice) => notice.text !== text);
    this.all$.next([...others, { id: this.next++, text, bad }]);
  }

  error(error: unknown): void {
    this.say(sentenceOf(error), true);
  }

  dismiss(id: number): void {
    this.all$.next(this.notices.filter((notice) => notice.id !== id));
  }
}
