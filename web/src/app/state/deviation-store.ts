import { inject, Injectable, type OnDestroy } from '@angular/core';
import { artKey, type PieceDocument, type Shape, type Vec3 } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, Subscription } from 'rxjs';
import { Compute } from '../workers/compute';
import type { Measured, PaintedFaces } from '../workers/messages';
import { BenchStore } from './bench-store';
import { Clock } from './clock';
import { LadderStore } from './ladder-store';
import { Notices } from './notices';
import { settledFor } from './settled';
import { Proposals } from './proposals';
import { ViewSettingsStore } from './view-settings';

/** What the deviation view paints and writes; metres. */
export interface Deviations {
  /** [n] for each vertex of the art: positive where it is uncovered, negative where proxies stand out of it */
  vertices: Float32Array;
  /** the shapes' own faces, with their excess */
  faces: PaintedFaces;
  /** where both scales end */
  scale: number;
  /** excess: proxy outside art, at most and where */
  proxyOutside: number;
  proxyOutsideAt: Vec3 | null;
  /** uncovered: art outside proxies */
  artOutside: number;
  artOutsideAt: Vec3 | null;
}

/** A walk along the ladder is measured when it rests. */
const SETTLED_MS = 120;
/** Nothing smaller than this is worth a scale: metres. */
const MIN_SCALE_METRES = 0.001;

/** How far the shapes that are shown lie from the art, for as long as the deviation view is on. */
@Injectable()
export class DeviationStore implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly view = inject(ViewSettingsStore);
  private readonly ladder = inject(LadderStore);
  private readonly compute = inject(Compute);
  private readonly clock = inject(Clock);
  private readonly notices = inject(Notices);
  private readonly found$ = new BehaviorSubject<Deviations | null>(null);
  readonly deviation$ = this.found$.asObservable();
  private readonly subscription = new Subscription();
  private asked = 0;

  constructor() {
    const shown$ = combineLatest([
      this.view.settings$.pipe(map(({ deviation }) => deviation)),
      this.bench.document$,
      this.proposals.proposal$,
    ]).pipe(
      map(([on, document, proposal]) => (on ? (proposal?.preview ?? document) : null)),
      distinctUntilChanged((a, b) => a === b || (!!a && !!b && a.proxies === b.proxies && sameArt(a, b))),
      settledFor(this.clock, SETTLED_MS),
    );
    this.subscription.add(
      shown$.subscribe((document) => {
        if (!document?.proxies.length) this.found$.next(null);
        else void this.measure(document);
      }),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private async measure(document: PieceDocument): Promise<void> {
    const asked = ++this.asked;
    const shapes: Shape[] = document.proxies.map(({ shape }) => shape);
    try {
      const found = await this.compute.run(
        (jobs, progress) => jobs.measure(document, this.bench.profile, shapes, progress),
        {
          first: 'Measuring',
          quick: true,
        },
      );
      if (asked === this.asked && this.view.settings.deviation) this.found$.next(this.scaled(found));
    } catch (error) {
      this.notices.error(error);
      // A legend that never gets its figures is worse than none.
      if (asked === this.asked) this.view.set({ deviation: false });
    }
  }

  private scaled({ figures, vertices, faces }: Measured): Deviations {
    const farthest = Math.max(figures.proxyOutside.max, figures.artOutside.max);
    const detail = this.ladder.ladder?.agent?.detail ?? this.bench.feltMetres;
    return {
      vertices,
      faces,
      scale: detail || Math.max(MIN_SCALE_METRES, farthest),
      proxyOutside: figures.proxyOutside.max,
      proxyOutsideAt: figures.proxyOutside.at,
      artOutside: figures.artOutside.max,
      artOutsideAt: figures.artOutside.at,
    };
  }
}

const sameArt = (a: PieceDocument, b: PieceDocument): boolean => artKey(a) === artKey(b);
