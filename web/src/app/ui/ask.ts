import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';

export interface Question {
  title: string;
  text: string;
  /** what the two buttons say will happen */
  accept: string;
  reject: string;
  /** something is gone for good by it */
  destructive?: boolean;
}

/** Questions that have to be answered before anything goes on: there are few of them. */
@Injectable({ providedIn: 'root' })
export class Ask {
  private readonly open$ = new BehaviorSubject<Question | null>(null);
  readonly question$ = this.open$.asObservable();
  private resolve: ((accepted: boolean) => void) | null = null;

  /** True when the person accepted; false when they rejected it, turned away or were asked something else. */
  ask(question: Question): Promise<boolean> {
    this.answer(false);
    this.open$.next(question);
    return new Promise((resolve) => (this.resolve = resolve));
  }

  answer(accepted: boolean): void {
    const { resolve } = this;
    this.resolve = null;
    if (this.open$.value) this.open$.next(null);
    resolve?.(accepted);
  }
}
