import { inject, Injectable, type OnDestroy } from '@angular/core';
import { add, artKey, currentDocument, type PieceDocument, subtract } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, distinctUntilChanged, map, Subscription } from 'rxjs';
import { Api } from '../api/api';
import { sentenceOf } from '../api/told';
import type { ArtOfPiece } from '../drawing/art-to-draw';
import { Compute } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import { Picking } from './picking';
import { Proposals } from './proposals';
import { Selection } from './selection';
import { ViewMarks } from './view-marks';
import { ViewSettingsStore } from './view-settings';

/** The art that is drawn, and of which piece it is. */
export interface DrawnArt extends ArtOfPiece {
  piece: number;
}

/** The art of the piece on the bench, as it is or as a proposal would make it, and of the pieces beside it. */
@Injectable()
export class ArtStore implements OnDestroy {
  private readonly api = inject(Api);
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly selection = inject(Selection);
  private readonly view = inject(ViewSettingsStore);
  private readonly marks = inject(ViewMarks);
  private readonly picking = inject(Picking);
  private readonly drawn$ = new BehaviorSubject<DrawnArt | null>(null);
  private readonly word$ = new BehaviorSubject('');
  private readonly neighbours$ = new BehaviorSubject<readonly ArtOfPiece[]>([]);
  readonly art$ = this.drawn$.asObservable();
  /** what is waited for while there is no art */
  readonly waiting$ = this.word$.asObservable();
  readonly beside$ = this.neighbours$.asObservable();
  private readonly as$ = new BehaviorSubject<DrawnArt | null>(null);
  /** the art as it is, while a proposal shows another one */
  readonly before$ = this.as$.asObservable();
  /** the piece as it is, or as a proposal would make it */
  readonly shown$ = combineLatest([this.bench.document$, this.proposals.proposal$]).pipe(
    map(([document, proposal]) => proposal?.preview ?? document),
    distinctUntilChanged(),
  );
  private readonly subscription = new Subscription();
  private piece = 0;
  private lastShown: PieceDocument | null = null;
  /** what is drawn, or being drawn */
  private wanted = '';
  private besideAsked: readonly number[] = [];
  private wasOver = false;
  private shownBeside = new Map<number, ArtOfPiece>();

  constructor() {
    this.subscription.add(this.shown$.subscribe((document) => this.show(document)));
    this.subscription.add(
      combineLatest([this.bench.beside$, this.bench.laidOver$]).subscribe(
        ([ids, over]) => void this.showBeside(ids, over),
      ),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  get art(): DrawnArt | null {
    return this.drawn$.value;
  }

  /** What the view shows, or is about to. */
  get document(): PieceDocument {
    return this.proposals.proposal?.preview ?? this.bench.document;
  }

  private show(document: PieceDocument): void {
    const { id } = this.bench.piece;
    this.selection.setPiece(id, this.bench.document);
    if (id !== this.piece) {
      this.piece = id;
      this.wanted = '';
      this.put(null);
      this.picking.cancel();
      this.marks.newPiece();
      this.view.newPiece();
    } else if (this.lastShown) this.marks.follow(this.lastShown, document);
    this.lastShown = document;
    // It is drawn anew only when what it is made of changes: meshes, nodes, unit.
    const key = artKey(document);
    const own = artKey(this.bench.document);
    const drawn = this.drawn$.value;
    if (key === own) this.as$.next(null);
    else if (drawn && artKey(drawn.document) === own) this.as$.next(drawn);
    if (key !== this.wanted) {
      this.wanted = key;
      void this.draw(document, id, key);
    }
  }

  private async draw(document: PieceDocument, piece: number, key: string): Promise<void> {
    const wanted = () => this.wanted === key && this.piece === piece;
    this.word$.next(`Drawing ${document.name} …`);
    try {
      const art = await this.compute.run((jobs, progress) => jobs.draw(document, progress), {
        first: `Drawing ${document.name}`,
        quick: true,
      });
      if (wanted()) this.put({ art, document, piece });
    } catch (error) {
      if (wanted()) this.word$.next(sentenceOf(error));
    }
  }

  private put(art: DrawnArt | null): void {
    this.drawn$.next(art);
    this.selection.setArt(art);
    this.marks.showFaults(null);
  }

  private async showBeside(ids: readonly number[], over: boolean): Promise<void> {
    this.besideAsked = ids;
    const before = over === this.wasOver ? this.shownBeside : new Map<number, ArtOfPiece>();
    this.wasOver = over;
    this.shownBeside = new Map(ids.flatMap((id) => (before.has(id) ? [[id, before.get(id)!]] : [])));
    this.neighbours$.next([...this.shownBeside.values()]);
    for (const id of ids) {
      if (this.shownBeside.has(id)) continue;
      try {
        const own = currentDocument((await this.api.piece(id)).history);
        const document = over ? atPivot(own, this.bench.document) : own;
        const art = await this.compute.run((jobs, progress) => jobs.draw(document, progress), {
          first: `Drawing ${document.name}`,
          quick: true,
        });
        if (this.besideAsked !== ids) return;
        this.shownBeside.set(id, { art, document });
        this.neighbours$.next([...this.shownBeside.values()]);
      } catch (error) {
        this.notices.error(error);
      }
    }
  }
}

/** A piece shifted so that its pivot is where another one has its own. */
function atPivot(document: PieceDocument, other: PieceDocument): PieceDocument {
  const { placing, pivot } = document;
  const at = add(placing.at, subtract(other.pivot.position, pivot.position));
  return { ...document, placing: { ...placing, at } };
}
