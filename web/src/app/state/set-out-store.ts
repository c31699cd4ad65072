import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { OpenSetOut, Piece } from '@yard-brace/contract';
import {
  applyToSetOut,
  canRedo,
  canUndo,
  currentDocument,
  currentSetOut,
  defaultTarget,
  describeSetOutEdit,
  MAX_PLACEMENTS,
  type PieceDocument,
  type Placement,
  placementNames,
  placementsBetween,
  pushSetOutEdit,
  type PutAct,
  redo,
  type SetOut,
  type SetOutHistory,
  sourceKey,
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
import { Api, ApiError } from '../api/api';
import { Told } from '../api/told';
import { Notices } from './notices';
import type { SavedWork } from './saved-work';
import { SetOutSaver } from './set-out-saver';
import { showYardIn } from './shown-unit';

const MAX_COPIED_NAME_CHARACTERS = 110;

/** What stands in a set-out, as the server has it. */
export interface Source {
  piece: Piece;
  document: PieceDocument;
}

/** The set-out that is worked on: what stands where, its history, the pieces that it is made of, and how it is saved. */
@Injectable()
export class SetOutStore implements SavedWork, OnDestroy {
  private readonly api = inject(Api);
  private readonly saver = inject(SetOutSaver);
  private readonly notices = inject(Notices);
  private readonly opened$ = new BehaviorSubject<OpenSetOut | null>(null);
  private readonly history$ = new BehaviorSubject<SetOutHistory | null>(null);
  private readonly known$ = new BehaviorSubject<ReadonlyMap<string, Source>>(new Map());
  /** pieces that are asked for, or were found to be gone */
  private readonly asked = new Map<string, Promise<void>>();
  private readonly completed$ = new BehaviorSubject<number | null>(null);
  /** number of the set-out whose pieces have all come, or are known to be gone; null before */
  readonly complete$ = this.completed$.asObservable();
  private opening = 0;

  readonly open$ = this.opened$.asObservable();
  readonly saving$ = this.saver.saving$;
  /** by their `sourceKey`: what stands there, as far as it has come; removed pieces never do */
  readonly sources$ = this.known$.asObservable();
  readonly setOut$: Observable<SetOut> = this.history$.pipe(
    filter((history) => history !== null),
    map(currentSetOut),
    distinctUntilChanged(),
    shareReplay({ bufferSize: 1, refCount: false }),
  );
  readonly undoable$ = this.history$.pipe(
    map((h) => (h && canUndo(h) ? describeSetOutEdit(h.edits[h.cursor - 1]!) : null)),
    distinctUntilChanged(),
  );
  readonly redoable$ = this.history$.pipe(
    map((h) => (h && canRedo(h) ? describeSetOutEdit(h.edits[h.cursor]!) : null)),
    distinctUntilChanged(),
  );
  /** what each placement is called, by its id */
  readonly names$ = combineLatest([this.setOut$, this.sources$]).pipe(
    map(([setOut, sources]) =>
      placementNames(setOut, (placement) => sources.get(sourceKey(placement))?.document.name ?? null),
    ),
    shareReplay({ bufferSize: 1, refCount: false }),
  );

  constructor() {
    this.saver.onSaved = ({ version, savedAt }) => {
      const open = this.opened$.value;
      if (open) this.opened$.next({ ...open, version, savedAt });
    };
  }

  ngOnDestroy(): void {
    this.saver.close();
  }

  /** Open a set-out; a change that an earlier window could not save any more comes back. */
  async open(id: number): Promise<void> {
    const asked = ++this.opening;
    if (this.opened$.value && this.unsaved) await this.settled().catch(() => undefined);
    const open = await this.api.setOut(id);
    if (asked === this.opening) this.show(open);
  }

  /** No set-out is worked on any more. */
  leave(): void {
    this.opening++;
    this.opened$.next(null);
    this.history$.next(null);
  }

  /** Only asked for while there is one. */
  get current(): OpenSetOut {
    return this.opened$.value!;
  }

  get setOut(): SetOut {
    return currentSetOut(this.history$.value!);
  }

  get rules(): YardRules {
    return this.current.yard.rules;
  }

  get profile(): TargetProfile {
    return defaultTarget(this.rules);
  }

  get unsaved(): boolean {
    return this.saver.unsaved;
  }

  sourceOf(placement: Pick<Placement, 'piece' | 'version'>): Source | null {
    return this.known$.value.get(sourceKey(placement)) ?? null;
  }

  /** The documents of what stands there, by their `sourceKey`, as far as they have come. */
  documents(): Map<string, PieceDocument> {
    return new Map([...this.known$.value].map(([key, { document }]) => [key, document]));
  }

  /** Of these documents those that a placement uses now. */
  usedDocuments(): Map<string, PieceDocument> {
    const used = new Set(this.setOut.placements.map(sourceKey));
    return new Map([...this.documents()].filter(([key]) => used.has(key)));
  }

  /** Placements put, by their ids, and others taken away. */
  put(act: PutAct, changed: readonly Placement[], removed: Iterable<string> = []): void {
    const { placements } = this.setOut;
    const { placements: after } = applyToSetOut(this.setOut, {
      kind: 'put-placements',
      act,
      changed: [...changed],
      removed: [...removed],
    });
    if (after.length > MAX_PLACEMENTS)
      throw new Told(
        `A set-out holds ${MAX_PLACEMENTS.toLocaleString('en-GB')} pieces at most; begin another one.`,
      );
    const edit = placementsBetween(placements, after, act);
    if (edit) this.change((history) => pushSetOutEdit(history, edit));
  }

  rename(name: string): void {
    if (name.trim() && name !== this.setOut.name)
      this.change((history) => pushSetOutEdit(history, { kind: 'rename', name: name.trim() }));
  }

  undo(): void {
    this.change((history) => undo(history));
  }

  redo(): void {
    this.change((history) => redo(history));
  }

  settled(): Promise<number> {
    return this.saver.settled();
  }

  async loadTheirs(): Promise<void> {
    const { id } = this.current;
    this.saver.drop();
    this.show(await this.api.setOut(id));
  }

  /** The other window was first: keep what is here as a set-out of its own. Answers with its address. */
  async keepMineAt(): Promise<string> {
    const name = `${this.setOut.name.slice(0, MAX_COPIED_NAME_CHARACTERS)} (copy)`;
    const { id: yard } = this.current.yard;
    const copy = await this.api.addSetOut(yard, { ...this.setOut, name });
    this.saver.drop();
    return `/yards/${yard}/set-out?set=${copy.id}`;
  }

  /** A piece was changed from here: its document is fetched anew. */
  async refresh(piece: number): Promise<void> {
    const source = { piece, version: null };
    this.asked.delete(sourceKey(source));
    await this.fetch(source);
  }

  /** Resolves when a piece is here, or is known to be gone. */
  fetch(source: Pick<Placement, 'piece' | 'version'>): Promise<void> {
    const key = sourceKey(source);
    const asked = this.asked.get(key) ?? this.fetchNow(source);
    this.asked.set(key, asked);
    return asked;
  }

  private async fetchNow({ piece: id, version }: Pick<Placement, 'piece' | 'version'>): Promise<void> {
    try {
      const piece = await this.api.piece(id);
      const history = version === null ? piece.history : await this.api.pieceAt(id, version);
      const document = currentDocument(history);
      this.known$.next(
        new Map(this.known$.value).set(sourceKey({ piece: id, version }), { piece, document }),
      );
    } catch (error) {
      // A removed piece is told by the check; what is only away just now is asked for again.
      if (error instanceof ApiError && error.code === 'not-found') return;
      this.asked.delete(sourceKey({ piece: id, version }));
      this.notices.error(error);
    }
  }

  private show(open: OpenSetOut): void {
    showYardIn(open.yard.rules.unit);
    const draft = this.saver.draftOf(open);
    this.completed$.next(null);
    this.saver.begin(open, draft);
    this.opened$.next(open);
    this.history$.next(draft?.history ?? open.history);
    void this.fetchAll().then(() => {
      if (this.opened$.value?.id === open.id) this.completed$.next(open.id);
    });
  }

  private async fetchAll(): Promise<void> {
    await Promise.all(this.setOut.placements.map((placement) => this.fetch(placement)));
  }

  private change(step: (history: SetOutHistory) => SetOutHistory): void {
    const before = this.history$.value;
    if (!before) return;
    const after = step(before);
    if (after === before) return;
    this.history$.next(after);
    this.saver.put(after);
    void this.fetchAll();
  }
}
