import { inject, Injectable } from '@angular/core';
import type { OpenSetOut, SavedSetOut } from '@yard-brace/contract';
import { type SetOutHistory, stepsBetween } from '@yard-brace/core';
import { Api } from '../api/api';
import { SetOutDrafts } from './drafts';
import { Saver, type Unsaved } from './saver';

/** Saves the history of one set-out by itself. */
@Injectable()
export class SetOutSaver extends Saver<SetOutHistory, SavedSetOut> {
  private readonly api = inject(Api);
  private readonly drafts = inject(SetOutDrafts);
  protected readonly what = 'set-out';

  /** What an earlier window could not save of a set-out; null when there is nothing. */
  draftOf({ id, history }: OpenSetOut): Unsaved<SetOutHistory> | null {
    const draft = this.drafts.take(id);
    return draft && JSON.stringify(draft.history) !== JSON.stringify(history) ? draft : null;
  }

  protected send(
    id: number,
    { version, history }: Unsaved<SetOutHistory>,
    stored: SetOutHistory,
  ): Promise<SavedSetOut> {
    const steps = stepsBetween(stored, history);
    return this.api.saveSetOut(id, steps ? { version, steps } : { version, history });
  }

  protected keep(id: number, unsaved: Unsaved<SetOutHistory>): boolean {
    return this.drafts.put(id, unsaved);
  }

  protected forget(id: number): void {
    this.drafts.drop(id);
  }
}
