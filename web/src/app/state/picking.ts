import { Injectable } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import type { Snap } from '../drawing/snap';

/** A point of the piece that was picked in the view. */
export interface Picked extends Snap {
  /** id of the part; empty for the ground, and for a piece beside */
  part: string;
  /** number of the face in the drawn art */
  face?: number;
  /** name of the piece beside that it is on */
  beside?: string;
}

/** One question at a time that is answered by a click in the view. */
@Injectable()
export class Picking {
  private readonly question$ = new BehaviorSubject<string | null>(null);
  private readonly caught$ = new BehaviorSubject<Vec3 | null>(null);
  /** what the person is asked to pick; null when nothing is */
  readonly asked$ = this.question$.asObservable();
  /** the point that a click would take */
  readonly point$ = this.caught$.asObservable();
  private readonly word$ = new BehaviorSubject('');
  /** what that point is: "vertex", "Coping 02, edge" */
  readonly caughtWord$ = this.word$.asObservable();
  private groundToo = false;
  private answer: ((picked: Picked | null) => void) | null = null;

  get asked(): string | null {
    return this.question$.value;
  }

  /** Whether a point on the ground beside the art answers, too. */
  get onGround(): boolean {
    return this.groundToo;
  }

  /** Ask for a point; null when the person cancelled, or was asked something else. */
  ask(what: string, { ground = false }: { ground?: boolean } = {}): Promise<Picked | null> {
    this.cancel();
    this.groundToo = ground;
    this.question$.next(what);
    return new Promise((resolve) => (this.answer = resolve));
  }

  /** Two points, one after the other. */
  async askTwo(first: string, second: string): Promise<[Picked, Picked] | null> {
    const from = await this.ask(first);
    const to = from && (await this.ask(second));
    return from && to && [from, to];
  }

  hover(point: Vec3 | null, word = ''): void {
    if (word !== this.word$.value) this.word$.next(word);
    if (point || this.caught$.value) this.caught$.next(point);
  }

  pick(picked: Picked): void {
    this.end(picked);
  }

  /** True when there was a question. */
  cancel(): boolean {
    const asked = this.asked !== null;
    this.end(null);
    return asked;
  }

  private end(picked: Picked | null): void {
    const { answer } = this;
    this.answer = null;
    if (this.asked !== null) this.question$.next(null);
    this.hover(null);
    answer?.(picked);
  }
}
