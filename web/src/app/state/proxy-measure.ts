import { inject, Injectable, type OnDestroy } from '@angular/core';
import { type PieceDocument, proxyKey, withLeftByArt } from '@yard-brace/core';
import { combineLatest, filter, map, Subscription } from 'rxjs';
import { Compute } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Clock } from './clock';
import { settledFor } from './settled';
import { ViewMarks } from './view-marks';

/** A walk along several changes is judged when it has come to rest; a drag changes nothing before it ends. */
const SETTLED_MS = 40;

/** Judges the shapes of the piece against its art whenever something has changed that they are judged by. */
@Injectable()
export class ProxyMeasure implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly clock = inject(Clock);
  private readonly marks = inject(ViewMarks);
  private readonly subscription = new Subscription();
  /** what could not be measured is not tried again until it changes */
  private tried = '';

  constructor() {
    this.subscription.add(
      combineLatest([this.bench.document$, this.bench.measured$])
        .pipe(
          settledFor(this.clock, SETTLED_MS),
          map(([document, measured]) =>
            document.proxies.length && measured?.judged?.key !== this.keyOf(document) ? document : null,
          ),
          filter((document) => document !== null),
        )
        .subscribe((document) => void this.measure(document!)),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private keyOf(document: PieceDocument): string {
    return this.bench.setKeyOf(document);
  }

  private async measure(document: PieceDocument): Promise<void> {
    const key = this.keyOf(document);
    if (this.tried === key) return;
    this.tried = key;
    try {
      const judged = await this.compute.run(
        (jobs, progress) => jobs.judgeShapes(document, this.bench.profile, this.bench.feltMetres, progress),
        { first: 'Measuring the shapes', quick: true },
      );
      if (this.keyOf(this.bench.document) !== key) {
        // Undone, it may be wanted again.
        if (this.tried === key) this.tried = '';
        return;
      }
      await this.bench.measured({
        key: proxyKey(document),
        artOutside: judged.uncovered.max,
        proxyOutside: judged.excess.max,
        judged: withLeftByArt(this.bench.lastMeasured?.judged ?? null, judged),
        // Each trial names the state that it was made on.
        ...(this.bench.lastMeasured?.trials ? { trials: this.bench.lastMeasured.trials } : {}),
      });
      this.marks.goTo(null);
    } catch (error) {
      // The card goes on saying that nobody has measured, which is so.
      console.warn('not measured:', error);
    }
  }
}
