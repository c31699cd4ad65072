import { inject, Injectable, type OnDestroy } from '@angular/core';
import { artKey } from '@yard-brace/core';
import { BehaviorSubject, type Subscription } from 'rxjs';
import type { ArtOfPiece } from '../drawing/art-to-draw';
import { Compute } from '../workers/compute';
import { Notices } from './notices';
import { SetOutStore } from './set-out-store';

/** The art of what stands in the set-out, each once, by its `sourceKey`, as far as it was drawn. */
@Injectable()
export class SetOutArt implements OnDestroy {
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly drawn$ = new BehaviorSubject<ReadonlyMap<string, ArtOfPiece>>(new Map());
  readonly arts$ = this.drawn$.asObservable();
  private readonly subscription: Subscription;
  private readonly drawing = new Map<string, string>();

  constructor() {
    this.subscription = inject(SetOutStore).sources$.subscribe((sources) => {
      for (const [key, { document }] of sources) {
        const art = artKey(document);
        const drawn = this.drawn$.value.get(key);
        if (drawn?.document === document) continue;
        if (drawn?.art.key === art) this.put(key, { art: drawn.art, document });
        else if (this.drawing.get(key) !== art) {
          this.drawing.set(key, art);
          void this.compute
            .run((jobs, progress) => jobs.draw(document, progress), { first: 'Drawing', quick: true })
            .then((art) => this.put(key, { art, document }))
            .catch((error: unknown) => this.notices.error(error));
        }
      }
    });
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private put(key: string, art: ArtOfPiece): void {
    this.drawn$.next(new Map(this.drawn$.value).set(key, art));
  }
}
