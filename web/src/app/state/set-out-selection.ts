import { inject, Injectable } from '@angular/core';
import { movedTogether, type Placement } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, shareReplay } from 'rxjs';
import { SetOutStore } from './set-out-store';

/** Placements that are chosen. A group is chosen whole, unless it was opened for one member. */
@Injectable()
export class SetOutSelection {
  private readonly store = inject(SetOutStore);
  private readonly ids$ = new BehaviorSubject<ReadonlySet<string>>(new Set());
  private readonly opened$ = new BehaviorSubject(false);
  private readonly under$ = new BehaviorSubject<string | null>(null);
  /** id of what is under the pointer, in the view or in a list */
  readonly pointed$ = this.under$.pipe(distinctUntilChanged());
  /** whether one member of a group is chosen by itself */
  readonly alone$ = this.opened$.asObservable();
  readonly chosen$ = combineLatest([this.ids$, this.store.setOut$]).pipe(
    map(([ids, { placements }]) => (ids.size ? placements.filter(({ id }) => ids.has(id)) : [])),
    shareReplay({ bufferSize: 1, refCount: false }),
  );

  get ids(): ReadonlySet<string> {
    return this.ids$.value;
  }

  get chosen(): Placement[] {
    return this.store.setOut.placements.filter(({ id }) => this.ids.has(id));
  }

  /** What is moved with what is chosen: groups whole, nothing that is locked. */
  get moving(): Placement[] {
    return movedTogether(this.store.setOut, this.ids, { alone: this.opened$.value });
  }

  /** Choose one, or add it to what is chosen, or take it away again. `alone`: a member of a group by itself. */
  choose(id: string | null, { more = false, alone = false } = {}): void {
    this.opened$.next(alone);
    if (id === null) {
      if (!more) this.set([]);
      return;
    }
    const { placements } = this.store.setOut;
    const one = placements.find((each) => each.id === id);
    if (!one) return;
    const group = alone || one.group === null ? [one] : placements.filter((each) => each.group === one.group);
    const ids = group.map((each) => each.id);
    if (!more) this.set(ids);
    else if (this.ids.has(id)) this.set([...this.ids].filter((each) => !ids.includes(each)));
    else this.set([...this.ids, ...ids]);
  }

  set(ids: Iterable<string>): void {
    const next = new Set(ids);
    if (next.size || this.ids.size) this.ids$.next(next);
  }

  point(id: string | null): void {
    this.under$.next(id);
  }
}
