import { inject, Injectable, type OnDestroy } from '@angular/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, type Subscription } from 'rxjs';
import { Compute } from '../workers/compute';
import type { SetPlaces as Places } from '../workers/messages';
import { BenchStore } from './bench-store';
import { Proposals } from './proposals';

/** Where the judged set leaves art bare and where its shapes cross, for as long as somebody wants to see it. */
@Injectable()
export class SetPlaces implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly wanted$ = new BehaviorSubject(false);
  private readonly found$ = new BehaviorSubject<Places | null>(null);
  readonly places$ = this.found$.asObservable();
  private readonly subscription: Subscription;
  private asked = 0;

  constructor() {
    this.subscription = combineLatest([
      this.wanted$,
      this.bench.document$,
      this.bench.measured$,
      inject(Proposals).proposal$,
    ])
      .pipe(
        map(([wanted, document, measured, proposal]) => {
          const judged = measured?.judged;
          const wrong = judged && (judged.bareCount > 0 || judged.crossingCount > 0);
          const isOfThis = judged?.key === this.bench.setKeyOf(document);
          return wanted && !proposal && wrong && isOfThis ? judged.key : null;
        }),
        distinctUntilChanged(),
      )
      .subscribe((key) => void this.look(key));
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  show(wanted: boolean): void {
    this.wanted$.next(wanted);
  }

  private async look(key: string | null): Promise<void> {
    const asked = ++this.asked;
    if (this.found$.value) this.found$.next(null);
    if (!key) return;
    const { document, feltMetres } = this.bench;
    try {
      const places = await this.compute.run(
        (jobs, progress) => jobs.setPlaces(document, this.bench.profile, feltMetres, progress),
        {
          first: 'Measuring the shapes',
          quick: true,
        },
      );
      if (asked === this.asked) this.found$.next(places);
    } catch (error) {
      // The findings say it in words all the same.
      console.warn('not drawn:', error);
    }
  }
}
