import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { ComingApart, SplitToTry } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, Subscription } from 'rxjs';
import type { ArtOfPiece } from '../drawing/art-to-draw';
import type { UvValues } from '../workers/messages';
import { ArtStore } from './art-store';
import { Operations } from './operations';
import { type UvPaint, ViewSettingsStore } from './view-settings';

/** A UV set painted on the faces of the art. */
export interface PaintedUvs {
  what: UvPaint;
  /** [t]: picture widths a metre, or how much more the picture is drawn out one way than the other; 0 for none */
  values: Float32Array;
  /** the value in the middle of the scale: the median density, or 1 */
  middle: number;
}

/** What is lit and painted on the art for a look: hard edges, and how UVs lie. Asked for only while it is on. */
@Injectable()
export class ArtLooks implements OnDestroy {
  private readonly arts = inject(ArtStore);
  private readonly view = inject(ViewSettingsStore);
  private readonly operations = inject(Operations);
  private readonly edges$ = new BehaviorSubject<Float32Array | null>(null);
  private readonly painted$ = new BehaviorSubject<PaintedUvs | null>(null);
  /** [6e] pairs of points from the art's origin; null while they are not lit */
  readonly hardEdges$ = this.edges$.asObservable();
  readonly uvs$ = this.painted$.asObservable();
  private readonly pieces$ = new BehaviorSubject<ComingApart | null>(null);
  /** what would come apart by the split that is looked at */
  readonly apart$ = this.pieces$.asObservable();
  /** the art that what comes apart was told on */
  private apartOf: ArtOfPiece | null = null;
  private readonly subscription = new Subscription();

  constructor() {
    const settings = <T>(pick: (settings: ViewSettingsStore['settings']) => T) =>
      this.view.settings$.pipe(map(pick), distinctUntilChanged());
    this.subscription.add(
      combineLatest([this.arts.art$, settings(({ hardEdges }) => hardEdges)]).subscribe(
        ([art, on]) => void this.lightEdges(on ? art : null),
      ),
    );
    this.subscription.add(
      combineLatest([this.arts.art$, settings(({ uvPaint }) => uvPaint)]).subscribe(
        ([art, paint]) => void this.paint(paint && art, paint),
      ),
    );
    this.subscription.add(
      combineLatest([this.arts.art$, settings(({ apart }) => apart)]).subscribe(
        ([art, split]) => void this.tellApart(art, split),
      ),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private async lightEdges(art: ArtOfPiece | null): Promise<void> {
    if (this.edges$.value) this.edges$.next(null);
    if (!art) return;
    const found = await this.operations.hardEdges();
    if (found && art === this.arts.art && this.view.settings.hardEdges) this.edges$.next(found.edges);
  }

  /** What is shown stays until the next answer: a number that is typed is followed without a flicker. */
  private async tellApart(art: ArtOfPiece | null, split: SplitToTry | null): Promise<void> {
    if (this.pieces$.value && (!art || !split || this.apartOf !== art)) this.pieces$.next(null);
    if (!art || !split) return;
    const found = await this.operations.comingApart(split);
    if (!found || art !== this.arts.art || this.view.settings.apart !== split) return;
    this.apartOf = art;
    this.pieces$.next(found);
  }

  private async paint(art: ArtOfPiece | null, paint: { set: number; what: UvPaint } | null): Promise<void> {
    if (this.painted$.value) this.painted$.next(null);
    if (!art || !paint) return;
    const found = await this.operations.uvPaint(paint.set);
    if (found && art === this.arts.art && this.view.settings.uvPaint === paint)
      this.painted$.next(paintedUvs(found, paint.what));
  }
}

export function paintedUvs({ density, stretch }: UvValues, what: UvPaint): PaintedUvs {
  if (what === 'stretch') return { what, values: stretch, middle: 1 };
  const known = density.filter((v) => v > 0).sort();
  return { what, values: density, middle: known[known.length >> 1] ?? 1 };
}
