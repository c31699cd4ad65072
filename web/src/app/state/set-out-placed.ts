import { inject, Injectable } from '@angular/core';
import { type Placed, placedPieces } from '@yard-brace/core';
import { combineLatest, map, shareReplay } from 'rxjs';
import { SetOutStore } from './set-out-store';

/** The pieces of the set-out where they stand, as far as they have come. */
@Injectable()
export class SetOutPlaced {
  private readonly store = inject(SetOutStore);
  private now: readonly Placed[] = [];
  readonly placed$ = combineLatest([this.store.setOut$, this.store.sources$]).pipe(
    map(([setOut, sources]) => {
      const documents = new Map([...sources].map(([key, { document }]) => [key, document]));
      return (this.now = placedPieces(setOut, documents));
    }),
    shareReplay({ bufferSize: 1, refCount: false }),
  );

  get placed(): readonly Placed[] {
    return this.now;
  }
}
