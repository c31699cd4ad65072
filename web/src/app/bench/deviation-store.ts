import { inject, Injectable, type OnDestroy } from '@angular/core';
import { artKey, type PieceDocument, type Shape } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, debounceTime, distinctUntilChanged, map, Subscription } from 'rxjs';
import { Compute } from '../compute/compute';
import type { Measured } from '../compute/messages';
import { Notices } from '../shell/notices';
import type { Deviations } from '../view/deviation-paint';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { LadderStore } from './ladder-store';

/** Moving along the ladder does not measure every rung that is passed. */
const SETTLED_MS = 120;
/** Without an agent the scale ends at the farthest place, but not below this many metres. */
const LEAST_SCALE = 1e-3;

/** How far the shapes that are shown lie from the art, at each of its vertices, while the person looks at that. */
@Injectable()
export class DeviationStore implements OnDestroy {
  private readonly store = inject(BenchStore);
  private readonly view = inject(ViewState);
  private readonly ladder = inject(LadderStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  readonly deviation$ = new BehaviorSubject<Deviations | null>(null);
  private readonly subscription = new Subscription();

  constructor() {
    const shown$ = combineLatest([
      this.view.settings$.pipe(map(({ deviation }) => deviation)),
      this.store.document$,
      this.store.proposal$,
    ]).pipe(
      map(([on, document, proposal]) =>
        on ? { document, proxies: proposal?.proxies ?? document.proxies } : null,
      ),
      distinctUntilChanged((a, b) => a?.proxies === b?.proxies && !!a === !!b && sameArt(a, b)),
      debounceTime(SETTLED_MS),
    );
    this.subscription.add(
      shown$.subscribe((shown) => {
        if (!shown?.proxies.length) this.deviation$.next(null);
        else
          void this.measure(
            shown.document,
            shown.proxies.map(({ shape }) => shape),
          );
      }),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private asked = 0;

  private async measure(document: PieceDocument, shapes: Shape[]): Promise<void> {
    const asked = ++this.asked;
    try {
      const found = await this.compute.run((worker, progress) => worker.measure(document, shapes, progress), {
        first: 'Measuring',
        quick: true,
      });
      if (asked === this.asked && this.view.settings.deviation) this.deviation$.next(this.scaled(found));
    } catch (error) {
      this.notices.error(error);
      // A legend that never gets its figures is worse than none.
      if (asked === this.asked) this.view.set({ deviation: false });
    }
  }

  private scaled({ figures, vertices }: Measured): Deviations {
    const farthest = Math.max(figures.proxyOutside.max, figures.artOutside.max);
    const detail = this.ladder.ladder$.value?.agent?.detail;
    return {
      vertices,
      scale: detail || Math.max(LEAST_SCALE, farthest),
      proxyOutside: figures.proxyOutside.max,
      artOutside: figures.artOutside.max,
    };
  }
}

type Shown = { document: PieceDocument } | null;
const sameArt = (a: Shown, b: Shown): boolean =>
  a === b || (!!a && !!b && artKey(a.document) === artKey(b.document));
