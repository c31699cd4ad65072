import { inject } from '@angular/core';
import type { Conflict } from '@yard-brace/contract';
import { BehaviorSubject } from 'rxjs';
import { ApiError } from '../api/api';
import { sentenceOf } from '../api/told';
import { Clock } from './clock';

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

/** What the server has of something that is saved. */
export interface Stored<H> {
  id: number;
  version: number;
  savedAt: string;
  history: H;
}

/** What is not saved yet, and the version that it grew out of. */
export interface Unsaved<H> {
  history: H;
  version: number;
}

/** Saves one history by itself: one save at a time, what is new only, tried again, kept as a draft. */
export abstract class Saver<H, Saved extends { version: number; savedAt: string }> {
  private readonly clock = inject(Clock);
  private readonly now$ = new BehaviorSubject<Saving>({ state: 'saving' });
  readonly saving$ = this.now$.asObservable();
  /** called after each save that the server took */
  onSaved: (saved: Saved, history: H) => void = () => undefined;

  /** what is saved, as a sentence names it: "piece" */
  protected abstract readonly what: string;
  protected id = 0;
  private version = 0;
  private stored: H | null = null;
  private history: H | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy: Promise<void> | undefined;
  private closed = false;

  /** @throws ApiError */
  protected abstract send(id: number, unsaved: Unsaved<H>, stored: H): Promise<Saved>;
  /** Keep what is not saved in this browser; false when it cannot. */
  protected abstract keep(id: number, unsaved: Unsaved<H>, stored: H): boolean;
  /** What was kept is saved, or given up. */
  protected abstract forget(id: number): void;

  get saving(): Saving {
    return this.now$.value;
  }

  /** True while something would be lost with this window. */
  get unsaved(): boolean {
    return this.history !== this.stored;
  }

  /** Begin with what the server has, or with what is not saved of it. */
  begin(stored: Stored<H>, draft: Unsaved<H> | null = null): void {
    this.clock.clear(this.timer);
    this.id = stored.id;
    this.version = stored.version;
    this.stored = this.history = stored.history;
    this.now$.next({ state: 'saved', at: stored.savedAt });
    if (!draft) return;
    this.history = draft.history;
    if (draft.version === stored.version) this.saveSoon();
    else this.now$.next({ state: 'conflict', with: this.conflictFrom(stored) });
  }

  /** Another state: kept as a draft at once, and saved soon. */
  put(history: H): void {
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
    this.forget(this.id);
    this.stored = this.history;
  }

  /** One last try; what it cannot save stays as a draft for the next time it is opened. */
  close(): void {
    this.closed = true;
    this.clock.clear(this.timer);
    if (this.unsaved && this.saving.state !== 'conflict') void this.saveNow();
  }

  private keepDraft(): boolean {
    return this.keep(this.id, { version: this.version, history: this.history! }, this.stored!);
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
    try {
      const saved = await this.send(id, { version, history }, this.stored!);
      this.onSaved(saved, history);
      if (this.id !== id) return;
      this.version = saved.version;
      this.stored = history;
      if (this.unsaved) {
        this.keepDraft();
        this.saveSoon();
        return;
      }
      this.forget(id);
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

  private conflictFrom({ version, savedAt }: Stored<H>): Conflict {
    return {
      code: 'conflict',
      message: `The ${this.what} was saved somewhere else in the meantime; load their version, or keep yours as a copy.`,
      version,
      savedAt,
    };
  }
}
