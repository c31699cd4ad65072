import { inject, Injectable, type OnDestroy } from '@angular/core';
import { type PieceDocument, proxyKey } from '@yard-brace/core';
import { combineLatest, filter, map, Subscription } from 'rxjs';
import { Compute } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Clock } from './clock';
import { settledFor } from './settled';

/** A drag or a walk along several changes is measured when it has come to rest. */
const SETTLED_MS = 250;

/** Measures the shapes of the piece against its art whenever one of them has changed, so that the stamp can say so. */
@Injectable()
export class ProxyMeasure implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly clock = inject(Clock);
  private readonly subscription = new Subscription();
  /** what could not be measured is not tried again until it changes */
  private tried = '';

  constructor() {
    this.subscription.add(
      combineLatest([this.bench.document$, this.bench.measured$])
        .pipe(
          settledFor(this.clock, SETTLED_MS),
          map(([document, measured]) => (measured?.key === keyOf(document) ? null : document)),
          filter((document) => document !== null && document.proxies.length > 0),
        )
        .subscribe((document) => void this.measure(document!)),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private async measure(document: PieceDocument): Promise<void> {
    const key = proxyKey(document);
    if (this.tried === key) return;
    this.tried = key;
    const shapes = document.proxies.map(({ shape }) => shape);
    try {
      const { artOutside, proxyOutside } = await this.compute.run(
        (jobs, progress) => jobs.compare(document, shapes, progress),
        { first: 'Measuring the shapes', quick: true },
      );
      if (proxyKey(this.bench.document) !== key) return;
      await this.bench.measured({ key, artOutside: artOutside.max, proxyOutside: proxyOutside.max });
    } catch (error) {
      // The card goes on saying that nobody has measured, which is so.
      console.warn('not measured:', error);
    }
  }
}

const keyOf = (document: PieceDocument) => (document.proxies.length ? proxyKey(document) : '');
