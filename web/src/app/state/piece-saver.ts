import { inject, Injectable } from '@angular/core';
import type { Conflict, Piece, Saved } from '@yard-brace/contract';
import { type History, stepsBetween, withSteps } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { sentenceOf } from '../api/told';
import { Clock } from './clock';
import { Drafts } from './drafts';

/** How the last change stands with the server. */
export type Saving =
  | { state: 'saved'; at: string }
  | { state: 'saving' }
  /** `kept`: whether it would survive this window being closed */
  | { state: 'waiting'; why: string; kept: boolean }
  | { state: 'conflict'; with: Conflict }
  | { state: 'refused'; why: string };

/** A change goes to the server when nothing has changed for so long. */
export const SAVE_AFTER_MS = 300;
export const TRY_AGAIN_MS = 1500;

/** Saves the history of one piece by itself: one save at a time, what is new only, tried again, kept as a draft. */
@Injectable()
export class PieceSaver {
  private readonly api = inject(Api);
  private readonly drafts = inject(Drafts);
  private readonly clock = inject(Clock);
  private readonly now$ = new BehaviorSubject<Saving>({ state: 'saving' });
  readonly saving$ = this.now$.asObservable();
  /** called after each save that the server took */
  onSaved: (saved: Saved, history: History) => void = () => undefined;

  private id = 0;
  private version = 0;
  private stored: History | null = null;
  private history: History | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy: Promise<void> | undefined;
  private closed = false;

  get saving(): Saving {
    return this.now$.value;
  }

  /** True while something would be lost with this window. */
  get unsaved(): boolean {
    return this.history !== this.stored;
  }

  /**
   * What an earlier window could not save of a piece: a history that grew out of the version it was made from. Null
   * when there is nothing, or when that version is not kept any more.
   */
  async draftOf({ id, version, history }: Piece): Promise<{ history: History; version: number } | null> {
    const draft = this.drafts.take(id);
    if (!draft) return null;
    if (draft.history) return { history: draft.history, version: draft.version };
    const base =
      draft.version === version ? history : await this.api.pieceAt(id, draft.version).catch(() => null);
    const grown = base && draft.steps ? withSteps(base, draft.steps) : null;
    return grown && { history: grown, version: draft.version };
  }

  /** Begin with a piece as the server has it, or with what is not saved of it. */
  begin(piece: Piece, draft: { history: History; version: number } | null = null): void {
    this.clock.clear(this.timer);
    this.id = piece.id;
    this.version = piece.version;
    this.stored = this.history = piece.history;
    this.now$.next({ state: 'saved', at: piece.savedAt });
    if (!draft) return;
    this.history = draft.history;
    if (draft.version === piece.version) this.saveSoon();
    else this.now$.next({ state: 'conflict', with: conflictFrom(piece) });
  }

  /** Another state: kept as a draft at once, and saved soon. */
  put(history: History): void {
    this.history = history;
    this.keepDraft();
    if (this.saving.state !== 'conflict') this.saveSoon();
  }

  /** Everything saved, and the version it has. @throws ApiError when it cannot be saved just now */
  async settled(): Promise<number> {
    this.clock.clear(this.timer);
    await this.saveNow();
    if (this.unsaved)
      throw new ApiError('unavailable', 'The last change is not saved yet; try again when it is.');
    return this.version;
  }

  /** Resolves when the save under way, if there is one, is answered. */
  async answered(): Promise<void> {
    await this.busy;
  }

  /** What is here was stored elsewhere, or is given up. */
  drop(): void {
    this.drafts.drop(this.id);
    this.stored = this.history;
  }

  /** One last try; what it cannot save stays as a draft for the next time the piece is opened. */
  close(): void {
    this.closed = true;
    this.clock.clear(this.timer);
    if (this.unsaved && this.saving.state !== 'conflict') void this.saveNow();
  }

  private keepDraft(): boolean {
    const steps = stepsBetween(this.stored!, this.history!);
    return this.drafts.put(this.id, {
      version: this.version,
      ...(steps ? { steps } : { history: this.history! }),
    });
  }

  private saveSoon(delay = SAVE_AFTER_MS): void {
    if (this.saving.state !== 'waiting') this.now$.next({ state: 'saving' });
    this.clock.clear(this.timer);
    if (!this.closed) this.timer = this.clock.after(delay, () => void this.saveNow());
  }

  /** One save at a time; changes made meanwhile go with the next. */
  private async saveNow(): Promise<void> {
    await this.busy;
    if (!this.unsaved || this.saving.state === 'conflict') return;
    this.busy = this.saveOnce().finally(() => (this.busy = undefined));
    await this.busy;
  }

  private async saveOnce(): Promise<void> {
    const { id, version } = this;
    const history = this.history!;
    const steps = stepsBetween(this.stored!, history);
    try {
      const saved = await this.api.savePiece(id, version, steps ? { steps } : { history });
      this.onSaved(saved, history);
      if (this.id !== id) return;
      this.version = saved.version;
      this.stored = history;
      if (this.unsaved) {
        this.keepDraft();
        this.saveSoon();
        return;
      }
      this.drafts.drop(id);
      this.now$.next({ state: 'saved', at: saved.savedAt });
    } catch (error) {
      if (this.id === id) this.failed(error);
    }
  }

  private failed(error: unknown): void {
    if (error instanceof ApiError && error.conflict)
      this.now$.next({ state: 'conflict', with: error.conflict });
    else if (error instanceof ApiError && (error.code === 'unavailable' || error.code === 'full')) {
      this.now$.next({ state: 'waiting', why: error.message, kept: this.keepDraft() });
      this.saveSoon(TRY_AGAIN_MS);
    } else this.now$.next({ state: 'refused', why: sentenceOf(error) });
  }
}

const conflictFrom = ({ version, savedAt }: Piece): Conflict => ({
  code: 'conflict',
  message: 'The piece was saved somewhere else in the meantime; load their version, or keep yours as a copy.',
  version,
  savedAt,
});
