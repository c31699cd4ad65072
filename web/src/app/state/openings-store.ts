import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  addClearances,
  artKey,
  clearanceShape,
  type FoundOpening,
  MAX_CLEARANCES,
  type PieceDocument,
  shapeDistance,
} from '@yard-brace/core';
import { BehaviorSubject, combineLatest, map, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Notices } from './notices';

/** Openings of the art that were found by themselves, until the art changes. */
@Injectable()
export class OpeningsStore implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly all$ = new BehaviorSubject<{ art: string; openings: readonly FoundOpening[] } | null>(
    null,
  );
  private readonly busy$ = new BehaviorSubject(false);
  readonly working$ = this.busy$.asObservable();
  /** those that are no clearance yet; null while nobody has looked */
  readonly found$ = combineLatest([this.all$, this.bench.document$]).pipe(
    map(([all, document]) => all && all.openings.filter((opening) => !isKept(opening, document))),
  );
  private readonly subscription: Subscription;

  constructor() {
    this.subscription = this.bench.document$.subscribe((document) => {
      if (this.all$.value && this.all$.value.art !== artKey(document)) this.all$.next(null);
    });
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  async find(): Promise<void> {
    const { document } = this.bench;
    this.busy$.next(true);
    try {
      const openings = await this.compute.run((jobs, progress) => jobs.openings(document, progress), {
        first: 'Looking for openings',
      });
      if (artKey(this.bench.document) === artKey(document))
        this.all$.next({ art: artKey(document), openings });
      if (!openings.length) this.notices.say('No way goes through this piece from one side to the other.');
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }

  /** These stay free from now on. */
  keepFree(openings: readonly FoundOpening[]): void {
    const edit = addClearances(
      this.bench.document,
      openings.map(({ center, halfExtents, rotation }) => ({ center, halfExtents, rotation, through: 'z' })),
    );
    if (edit.clearances.length > MAX_CLEARANCES)
      return this.notices.say(
        `A piece has at most ${MAX_CLEARANCES} clearances, and this would make ${edit.clearances.length}; remove some first.`,
        true,
      );
    const all = openings.length === this.all$.value?.openings.length;
    this.bench.apply(all ? { ...edit, intent: { op: 'openings', parameters: { agent: null } } } : edit);
  }
}

const isKept = ({ center }: FoundOpening, { clearances }: PieceDocument): boolean =>
  clearances.some((clearance) => shapeDistance(clearanceShape(clearance))(...center) < 0);
