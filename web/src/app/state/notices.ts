import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';
import { sentenceOf } from '../api/told';

export interface Notice {
  id: number;
  text: string;
  bad: boolean;
}

/** As many sentences on what went well are read at once; older ones would pile up over the work. */
const MOST_GOOD = 3;

/**
 * Sentences at the foot of the page. What went wrong stays until it is dismissed; what went well belongs to the place
 * where it was done, and only the last of it is news.
 */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly all$ = new BehaviorSubject<readonly Notice[]>([]);
  readonly notices$ = this.all$.asObservable();
  private next = 1;

  get notices(): readonly Notice[] {
    return this.all$.value;
  }

  say(text: string, bad = false): void {
    // What is said again is one sentence.
    const all = this.notices.filter((notice) => notice.text !== text);
    all.push({ id: this.next++, text, bad });
    const old = all.filter((notice) => !notice.bad).at(-MOST_GOOD - 1);
    this.all$.next(all.filter((notice) => notice !== old));
  }

  error(error: unknown): void {
    this.say(sentenceOf(error), true);
  }

  /** The person goes to another place. */
  leave(): void {
    this.all$.next(this.notices.filter(({ bad }) => bad));
  }

  dismiss(id: number): void {
    this.all$.next(this.notices.filter((notice) => notice.id !== id));
  }
}
