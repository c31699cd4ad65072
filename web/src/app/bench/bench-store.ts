import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Conflict, LastDelivery, Piece, Saved } from '@yard-brace/contract';
import {
  type Agent,
  applyEdit,
  canRedo,
  canUndo,
  checkRulesOf,
  currentDocument,
  describeEdit,
  type Edit,
  type Finding,
  findingsOf,
  type History,
  type PieceDocument,
  type PieceSurroundings,
  PREFIX_TAGS,
  profileById,
  type Proxy,
  type ProxyFacts,
  pushEdit,
  redo,
  stampsOf,
  stepsBetween,
  type Tally,
  type TargetProfile,
  undo,
  usualAgent,
  withDistinctIds,
} from '@yard-brace/core';
import {
  BehaviorSubject,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  shareReplay,
  type Observable,
} from 'rxjs';
import { Api, ApiError } from '../api/api';
import { ShelfStore } from '../shelf/shelf-store';
import { Notices } from '../shell/notices';
import { sentenceOf } from '../shell/told';
import { Drafts } from './drafts';

/** How the last change stands with the server. */
export type Saving =
  | { state: 'saved'; at: string }
  | { state: 'saving' }
  /** `kept`: whether it would survive this window being closed */
  | { state: 'waiting'; why: string; kept: boolean }
  | { state: 'conflict'; with: Conflict }
  | { state: 'refused'; why: string };

/** Shapes that were made and not yet kept. */
export interface Proposal {
  what: string;
  proxies: Proxy[];
  /** metres by which the art stands out of them */
  cutBack: number;
  /** it is a rung of the ladder, which has figures of its own */
  ladder?: boolean;
}

/** A change to the piece that was worked out and is not made yet. */
export interface ChangeProposal {
  says: string;
  edit: Edit;
  /** the piece as it would be */
  document: PieceDocument;
  /** the view has nothing else to show: names, materials */
  keepLabel: string;
}

export interface Judged {
  document: PieceDocument;
  findings: Finding[];
  tally: Tally;
}

const SAVE_AFTER_MS = 300;
const TRY_AGAIN_MS = 1500;

/** The piece on the bench: its document and history, what is proposed, and how it is saved. */
@Injectable()
export class BenchStore implements OnDestroy {
  private readonly api = inject(Api);
  private readonly drafts = inject(Drafts);
  private readonly notices = inject(Notices);
  private readonly shelf = inject(ShelfStore);

  readonly piece$ = new BehaviorSubject<Piece | null>(null);
  private readonly history$ = new BehaviorSubject<History | null>(null);
  readonly saving$ = new BehaviorSubject<Saving>({ state: 'saving' });
  private readonly shapes$ = new BehaviorSubject<Proposal | null>(null);
  private readonly proposed$ = new BehaviorSubject<ChangeProposal | null>(null);
  /** shapes that are shown and not kept */
  readonly proposal$ = this.shapes$.asObservable();
  /** a change that is shown and not made. There is one proposal at a time: this, or shapes */
  readonly change$ = this.proposed$.asObservable();
  /** another piece of the yard that is shown beside this one, at its place */
  readonly beside$ = new BehaviorSubject<number | null>(null);
  /** the shape that is pointed at, in the list or in the view */
  readonly lit$ = new BehaviorSubject<string | null>(null);
  readonly delivered$ = new BehaviorSubject<LastDelivery | null>(null);
  /** how the shapes were measured last, on whatever state */
  readonly measured$ = new BehaviorSubject<ProxyFacts | null>(null);

  readonly document$: Observable<PieceDocument> = this.history$.pipe(
    filter((h) => h !== null),
    map(currentDocument),
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
  readonly judged$: Observable<Judged> = combineLatest([
    this.document$,
    this.piece$,
    this.delivered$,
    this.saving$,
    this.measured$,
  ]).pipe(
    filter(([, piece]) => piece !== null),
    map(([document, piece, lastDelivery, saving, measured]) =>
      judge(document, piece!.yard.rules.agents, {
        otherMeshNames: piece!.otherMeshNames,
        lastDelivery,
        version: piece!.version + (saving.state === 'saved' ? 0 : 1),
        family: piece!.family,
        measured,
      }),
    ),
    shareReplay({ bufferSize: 1, refCount: false }),
  );

  private version = 0;
  private savedHistory: History | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy: Promise<void> | undefined;
  private closed = false;
  private opening = 0;

  /** Put a piece on the bench; a change that an earlier window could not save any more comes back. */
  async open(id: number): Promise<void> {
    const asked = ++this.opening;
    // What the piece that leaves the bench could not save stays as its draft.
    if (this.piece$.value && this.unsaved) await this.settled().catch(() => undefined);
    clearTimeout(this.timer);
    const piece = await this.api.piece(id);
    // Whoever turned on to another piece meanwhile sees that one, in whatever order the answers come.
    if (asked !== this.opening) return;
    this.show(piece);
    const draft = this.drafts.take(id);
    if (!draft || JSON.stringify(draft.history) === JSON.stringify(piece.history)) return;
    this.history$.next(draft.history);
    if (draft.version === piece.version) this.saveSoon();
    else this.saving$.next({ state: 'conflict', with: conflictFrom(piece) });
  }

  get document(): PieceDocument {
    return currentDocument(this.history$.value!);
  }

  get profile(): TargetProfile {
    return profileById(this.document.target) ?? PREFIX_TAGS;
  }

  /** True while something on this page would be lost by leaving it. */
  get unsaved(): boolean {
    return this.history$.value !== this.savedHistory;
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

  /** Show a change without making it; another proposal that is shown is left. */
  proposeChange(says: string, edit: Edit, keepLabel = 'Keep'): ChangeProposal {
    const change = { says, edit, keepLabel, document: applyEdit(this.document, edit) };
    this.shapes$.next(null);
    this.proposed$.next(change);
    return change;
  }

  /** Show shapes without keeping them; another proposal that is shown is left. */
  proposeShapes(proposal: Proposal): void {
    this.proposed$.next(null);
    this.shapes$.next({ ...proposal, proxies: withDistinctIds(proposal.proxies) });
  }

  keepProposal(): void {
    const [change, shapes] = [this.proposed$.value, this.shapes$.value];
    this.leaveProposal();
    if (change) this.apply(change.edit);
    else if (shapes) this.apply({ kind: 'set-proxies', proxies: shapes.proxies });
  }

  /** True when there was a proposal to leave. */
  leaveProposal(): boolean {
    const there = this.shapes$.value !== null || this.proposed$.value !== null;
    if (this.shapes$.value) this.shapes$.next(null);
    if (this.proposed$.value) this.proposed$.next(null);
    return there;
  }

  delivered(delivery: LastDelivery): void {
    this.delivered$.next(delivery);
  }

  /** The shapes were measured against the art; kept with the piece, as soon as what was measured is saved. */
  async measured(measured: ProxyFacts): Promise<void> {
    const { id } = this.piece$.value!;
    this.measured$.next(measured);
    await this.busy;
    const { facts } = await this.api.setMeasured(id, measured);
    this.shelf.put({ id, facts });
  }

  /** Everything saved, and the version it has: what a delivery starts from. */
  async settled(): Promise<number> {
    clearTimeout(this.timer);
    await this.saveNow();
    if (this.unsaved)
      throw new ApiError('unavailable', 'The last change is not saved yet; deliver again when it is.');
    return this.version;
  }

  /** The other window was first: show what it saved. */
  async takeTheirs(): Promise<void> {
    const id = this.piece$.value!.id;
    this.drafts.drop(id);
    this.show(await this.api.piece(id));
  }

  /** The other window was first: keep what is here as a piece of its own. */
  async keepMineAsCopy(): Promise<number> {
    const piece = this.piece$.value!;
    const history = pushEdit(this.history$.value!, {
      kind: 'rename-piece',
      name: `${this.document.name.slice(0, 110)} (copy)`,
    });
    const copy = await this.api.addPiece(piece.yard.id, history);
    this.drafts.drop(piece.id);
    this.savedHistory = this.history$.value;
    return copy.id;
  }

  /** One last try; what it cannot save stays as a draft for the next time the piece is opened. */
  ngOnDestroy(): void {
    this.closed = true;
    clearTimeout(this.timer);
    if (this.unsaved && this.saving$.value.state !== 'conflict') void this.saveNow();
  }

  private show(piece: Piece): void {
    this.version = piece.version;
    this.savedHistory = piece.history;
    this.leaveProposal();
    this.beside$.next(null);
    this.piece$.next(piece);
    this.delivered$.next(piece.lastDelivery);
    this.measured$.next(piece.measured);
    this.history$.next(piece.history);
    this.saving$.next({ state: 'saved', at: piece.savedAt });
  }

  private change(step: (history: History) => History): void {
    const before = this.history$.value;
    if (!before) return;
    const after = step(before);
    if (after === before) return;
    this.history$.next(after);
    // What was proposed was worked out on the piece as it was.
    if (this.leaveProposal())
      this.notices.say('The piece was changed, so the proposal, which was made for it as it was, is gone.');
    this.drafts.put(this.piece$.value!.id, { version: this.version, history: after });
    if (this.saving$.value.state !== 'conflict') this.saveSoon();
  }

  private saveSoon(delay = SAVE_AFTER_MS): void {
    if (this.saving$.value.state !== 'waiting') this.saving$.next({ state: 'saving' });
    clearTimeout(this.timer);
    if (this.closed) return;
    this.timer = setTimeout(() => void this.saveNow(), delay);
  }

  /** One save at a time; changes made meanwhile go with the next. */
  private async saveNow(): Promise<void> {
    await this.busy;
    if (!this.unsaved || this.saving$.value.state === 'conflict') return;
    this.busy = this.saveOnce().finally(() => (this.busy = undefined));
    await this.busy;
  }

  private async saveOnce(): Promise<void> {
    const { id } = this.piece$.value!;
    const history = this.history$.value!;
    try {
      const steps = stepsBetween(this.savedHistory!, history);
      this.saved(id, history, await this.api.savePiece(id, this.version, steps ? { steps } : { history }));
    } catch (error) {
      if (error instanceof ApiError && error.conflict)
        this.saving$.next({ state: 'conflict', with: error.conflict });
      else if (error instanceof ApiError && (error.code === 'unavailable' || error.code === 'full')) {
        const kept = this.drafts.put(id, { version: this.version, history: this.history$.value! });
        this.saving$.next({ state: 'waiting', why: error.message, kept });
        this.saveSoon(TRY_AGAIN_MS);
      } else this.saving$.next({ state: 'refused', why: sentenceOf(error) });
    }
  }

  private saved(id: number, history: History, { version, savedAt, facts }: Saved): void {
    this.shelf.put({ id, name: currentDocument(history).name, version, savedAt, facts });
    if (this.piece$.value?.id !== id) return;
    this.version = version;
    this.savedHistory = history;
    this.piece$.next({ ...this.piece$.value!, version, savedAt });
    if (this.unsaved) {
      this.drafts.put(id, { version, history: this.history$.value! });
      this.saveSoon();
      return;
    }
    this.drafts.drop(id);
    this.saving$.next({ state: 'saved', at: savedAt });
  }
}

export function judge(document: PieceDocument, agents: readonly Agent[], around: PieceSurroundings): Judged {
  const agent = usualAgent(agents);
  const rules = {
    ...checkRulesOf(profileById(document.target) ?? PREFIX_TAGS),
    ...(agent ? { agent } : {}),
  };
  const findings = findingsOf(document, rules, around);
  return { document, findings, tally: stampsOf(document, findings, around) };
}

const conflictFrom = ({ version, savedAt, history }: Piece): Conflict => ({
  code: 'conflict',
  message: `“${currentDocument(history).name}” was saved somewhere else in the meantime; take that over, or keep yours as a copy.`,
  version,
  savedAt,
});
