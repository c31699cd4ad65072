import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { LastDelivery, Piece, YardRulesState } from '@yard-brace/contract';
import {
  agentFor,
  canRedo,
  canUndo,
  currentDocument,
  defaultTarget,
  deliveryStates,
  describeEdit,
  type Edit,
  type History,
  type PieceDocument,
  lookedAt,
  MAX_NAME_CHARACTERS,
  meshNameFrom,
  type ProxyFacts,
  pushEdit,
  redo,
  setKey,
  startHistory,
  takesOf,
  targetsOf,
  type TargetProfile,
  undo,
  type YardRules,
} from '@yard-brace/core';
import {
  BehaviorSubject,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  type Observable,
  shareReplay,
} from 'rxjs';
import { Api } from '../api/api';
import { judge, type Judged } from './judge';
import { PieceSaver } from './piece-saver';
import type { SavedWork } from './saved-work';
import { ShelfStore } from './shelf-store';
import { showYardIn } from './shown-unit';

const MAX_COPIED_NAME_CHARACTERS = 110;

/** The piece on the bench: its document and history, what is known of it, and how it is saved. */
@Injectable()
export class BenchStore implements SavedWork, OnDestroy {
  private readonly api = inject(Api);
  private readonly saver = inject(PieceSaver);
  private readonly shelf = inject(ShelfStore);

  private readonly onBench$ = new BehaviorSubject<Piece | null>(null);
  private readonly history$ = new BehaviorSubject<History | null>(null);
  private readonly left$ = new BehaviorSubject<readonly LastDelivery[]>([]);
  private readonly facts$ = new BehaviorSubject<ProxyFacts | null>(null);
  private readonly over$ = new BehaviorSubject(false);
  /** whether those beside lie over it by their pivots */
  readonly laidOver$ = this.over$.asObservable();
  private readonly other$ = new BehaviorSubject<readonly number[]>([]);

  readonly piece$ = this.onBench$.asObservable();
  readonly saving$ = this.saver.saving$;
  /** the newest delivery of all; null before the first */
  readonly delivered$ = this.left$.pipe(map((left) => left[0] ?? null));
  /** how the shapes were measured last, on whatever state */
  readonly measured$ = this.facts$.asObservable();
  /** other pieces of the yard that are shown beside this one, at their places */
  readonly beside$ = this.other$.asObservable();
  readonly document$: Observable<PieceDocument> = this.history$.pipe(
    filter((history) => history !== null),
    map(currentDocument),
    distinctUntilChanged(),
    shareReplay({ bufferSize: 1, refCount: false }),
  );
  readonly undoable$ = this.history$.pipe(
    map((h) => (h && canUndo(h) ? describeEdit(h.edits[h.cursor - 1]!) : null)),
    distinctUntilChanged(),
  );
  readonly redoable$ = this.history$.pipe(
    map((h) => (h && canRedo(h) ? describeEdit(h.edits[h.cursor]!) : null)),
    distinctUntilChanged(),
  );
  /** mesh names of the other pieces, as far as the shelf knows them */
  private readonly names$ = combineLatest([this.piece$, this.shelf.yard$]).pipe(
    map(() => this.otherMeshNames),
    distinctUntilChanged((a, b) => a.length === b.length && a.every((name, i) => name === b[i])),
  );
  readonly judged$: Observable<Judged> = combineLatest([
    this.document$,
    this.piece$,
    this.left$,
    this.saving$,
    this.measured$,
    this.names$,
  ]).pipe(
    filter(([, piece]) => piece !== null),
    map(([document, piece, left, saving, measured]) =>
      judge(document, piece!.yard.rules, {
        otherMeshNames: this.otherMeshNames,
        targets: targetsOf(piece!.yard.rules).map(({ name }) => name),
        deliveries: deliveryStates(
          document,
          piece!.yard.rules,
          left,
          piece!.version + (saving.state === 'saved' ? 0 : 1),
        ),
        family: piece!.family,
        measured,
      }),
    ),
    shareReplay({ bufferSize: 1, refCount: false }),
  );

  private opening = 0;

  constructor() {
    this.saver.onSaved = ({ version, savedAt, facts }, history) => {
      const piece = this.onBench$.value!;
      this.shelf.put({ id: piece.id, name: currentDocument(history).name, version, savedAt, facts });
      this.onBench$.next({ ...piece, version, savedAt });
    };
  }

  ngOnDestroy(): void {
    this.saver.close();
  }

  /** Put a piece on the bench; a change that an earlier window could not save any more comes back. */
  async open(id: number): Promise<void> {
    const asked = ++this.opening;
    // What the piece that leaves the bench could not save stays as its draft.
    if (this.onBench$.value && this.unsaved) await this.settled().catch(() => undefined);
    const piece = await this.api.piece(id);
    const draft = await this.saver.draftOf(piece);
    // Whoever turned on to another piece meanwhile sees that one, in whatever order the answers come.
    if (asked !== this.opening) return;
    const same = !draft || JSON.stringify(draft.history) === JSON.stringify(piece.history);
    this.show(piece, same ? null : draft);
  }

  /** The piece that is on the bench. Only asked for while there is one. */
  get piece(): Piece {
    return this.onBench$.value!;
  }

  get document(): PieceDocument {
    return currentDocument(this.history$.value!);
  }

  /** Mesh names of the other pieces of the yard; before its shelf is there, those that could be mixed up with its own. */
  get otherMeshNames(): readonly string[] {
    const piece = this.onBench$.value;
    const { yard } = this.shelf;
    if (!piece || yard?.id !== piece.yard.id || yard.shelf.length === 0) return piece?.otherMeshNames ?? [];
    return yard.shelf.flatMap(({ id, meshName, broken }) =>
      id === piece.id || broken !== null ? [] : [meshName],
    );
  }

  get history(): History {
    return this.history$.value!;
  }

  get rules(): YardRules {
    return this.piece.yard.rules;
  }

  /** Rules that were saved from the bench. */
  ruled({ version, rules }: YardRulesState): void {
    const { yard } = this.piece;
    this.onBench$.next({ ...this.piece, yard: { ...yard, rules, rulesVersion: version } });
  }

  /** What the shapes are judged and drawn for. */
  get profile(): TargetProfile {
    return defaultTarget(this.rules);
  }

  /** What those feel for whom the piece is judged: metres below which detail does not matter. */
  get feltMetres(): number {
    return agentFor(this.document, this.rules)?.detail ?? 0;
  }

  /** What a judgement of the shapes of a document depends on: it is out of date when this changes. */
  setKeyOf(document: PieceDocument): string {
    return setKey(document, this.feltMetres, takesOf(this.profile));
  }

  get lastMeasured(): ProxyFacts | null {
    return this.facts$.value;
  }

  /** True while something on this page would be lost by leaving it. */
  get unsaved(): boolean {
    return this.saver.unsaved;
  }

  apply(edit: Edit): void {
    this.change((history) => pushEdit(history, edit));
  }

  undo(): void {
    this.change(undo);
  }

  redo(): void {
    this.change(redo);
  }

  delivered(delivery: LastDelivery): void {
    const others = this.left$.value.filter(({ target }) => target !== delivery.target);
    this.left$.next([delivery, ...others]);
  }

  /** Pieces of the yard, each at its place; none takes them away. */
  showBeside(pieces: readonly number[]): void {
    this.over$.next(false);
    this.other$.next(pieces);
  }

  /** Pieces over this one so that their pivots meet, as one would stand in the place of the other. */
  layOver(pieces: readonly number[]): void {
    this.over$.next(pieces.length > 0);
    this.other$.next(pieces);
  }

  /** The shapes were measured against the art; kept with the piece, as soon as what was measured is saved. */
  async measured(measured: ProxyFacts): Promise<void> {
    const { id } = this.piece;
    this.facts$.next(measured);
    await this.saver.answered();
    const { facts } = await this.api.setMeasured(id, measured);
    this.shelf.put({ id, facts });
  }

  /** What changes of the art have left in the set was looked at, and is not said any more. */
  async lookedAt(): Promise<void> {
    const measured = this.facts$.value;
    if (measured?.judged) await this.measured({ ...measured, judged: lookedAt(measured.judged) });
  }

  /** Everything saved, and the version it has: what a delivery starts from. */
  settled(): Promise<number> {
    return this.saver.settled();
  }

  /** The other window was first: show what it saved. */
  async loadTheirs(): Promise<void> {
    const { id } = this.piece;
    this.saver.drop();
    this.show(await this.api.piece(id));
  }

  /** The other window was first: keep what is here as a piece of its own. Answers with its address. */
  async keepMineAt(): Promise<string> {
    const name = `${this.document.name.slice(0, MAX_COPIED_NAME_CHARACTERS)} (copy)`;
    const history = pushEdit(this.history$.value!, { kind: 'rename-piece', name });
    const copy = await this.api.addPiece(this.piece.yard.id, history);
    this.saver.drop();
    return `/pieces/${copy.id}`;
  }

  /** A document that was made of this one becomes a piece of its own, with nothing to undo. Answers with its number. */
  async addBeside(document: PieceDocument, called: string): Promise<number> {
    const name = `${document.name.slice(0, MAX_NAME_CHARACTERS - called.length - 3)} (${called})`;
    const added = await this.api.addPiece(
      this.piece.yard.id,
      startHistory({ ...document, name, meshName: meshNameFrom(name) }),
    );
    return added.id;
  }

  private show(piece: Piece, draft: { history: History; version: number } | null = null): void {
    showYardIn(piece.yard.rules.unit);
    this.saver.begin(piece, draft);
    this.showBeside([]);
    this.onBench$.next(piece);
    this.left$.next(piece.lastDeliveries);
    this.facts$.next(piece.measured);
    this.history$.next(draft?.history ?? piece.history);
  }

  private change(step: (history: History) => History): void {
    const before = this.history$.value;
    if (!before) return;
    const after = step(before);
    if (after === before) return;
    this.history$.next(after);
    this.saver.put(after);
  }
}
