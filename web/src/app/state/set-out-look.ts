import { Injectable } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';

export const SET_OUT_VIEWS = ['plan', 'free', 'both'] as const;
export type SetOutViews = (typeof SET_OUT_VIEWS)[number];

/** How a set-out is looked at. */
export interface SetOutLook {
  views: SetOutViews;
  /** 0 shows the art, 1 the shapes */
  veil: number;
  /** what is higher is cut away, metres; null cuts nothing */
  cut: number | null;
  /** placements that are left out of the picture; what is delivered is not changed by that */
  hidden: ReadonlySet<string>;
  /** what pivots snap to, metres; null is the yard's grid, 0 nothing */
  gridMetres: number | null;
}

@Injectable()
export class SetOutLookStore {
  private readonly now$ = new BehaviorSubject<SetOutLook>({
    views: 'plan',
    veil: 0.25,
    cut: null,
    hidden: new Set(),
    gridMetres: null,
  });
  readonly look$ = this.now$.asObservable();
  private readonly places$ = new BehaviorSubject<{
    ids: readonly string[];
    at: Vec3 | null;
    asked: number;
  } | null>(null);
  /** what the views are to go to, each time it is said */
  readonly goTo$ = this.places$.asObservable();
  private asked = 0;

  get look(): SetOutLook {
    return this.now$.value;
  }

  set(change: Partial<SetOutLook>): void {
    this.now$.next({ ...this.look, ...change });
  }

  /** Bring placements into view; none is everything. */
  goTo(ids: readonly string[] = []): void {
    this.places$.next({ ids, at: null, asked: ++this.asked });
  }

  /** Bring a place into view, metres. */
  lookAt(at: Vec3): void {
    this.places$.next({ ids: [], at, asked: ++this.asked });
  }
}
