import { inject, Injectable } from '@angular/core';
import type { Piece, Saved } from '@yard-brace/contract';
import { type History, stepsBetween, withSteps } from '@yard-brace/core';
import { Api } from '../api/api';
import { Drafts } from './drafts';
import { Saver, type Unsaved } from './saver';

/** Saves the history of one piece by itself. */
@Injectable()
export class PieceSaver extends Saver<History, Saved> {
  private readonly api = inject(Api);
  private readonly drafts = inject(Drafts);
  protected readonly what = 'piece';

  /**
   * What an earlier window could not save of a piece: a history that grew out of the version it was made from. Null
   * when there is nothing, or when that version is not kept any more.
   */
  async draftOf({ id, version, history }: Piece): Promise<Unsaved<History> | null> {
    const draft = this.drafts.take(id);
    if (!draft) return null;
    if (draft.history) return { history: draft.history, version: draft.version };
    const base =
      draft.version === version ? history : await this.api.pieceAt(id, draft.version).catch(() => null);
    const grown = base && draft.steps ? withSteps(base, draft.steps) : null;
    return grown && { history: grown, version: draft.version };
  }

  protected send(id: number, { version, history }: Unsaved<History>, stored: History): Promise<Saved> {
    const steps = stepsBetween(stored, history);
    return this.api.savePiece(id, version, steps ? { steps } : { history });
  }

  protected keep(id: number, { version, history }: Unsaved<History>, stored: History): boolean {
    const steps = stepsBetween(stored, history);
    return this.drafts.put(id, { version, ...(steps ? { steps } : { history }) });
  }

  protected forget(id: number): void {
    this.drafts.drop(id);
  }
}
