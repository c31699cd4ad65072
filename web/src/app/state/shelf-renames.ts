import { inject, Injectable, signal } from '@angular/core';
import type { PieceSummary } from '@yard-brace/contract';
import { type Edit, type PieceName, pushEdit, type Rename, undo } from '@yard-brace/core';
import { Api } from '../api/api';
import { sentenceOf } from '../api/told';
import { Notices } from './notices';
import { ShelfStore } from './shelf-store';

/** Renames pieces of the shelf, one undo step in each, and takes that back as long as nothing else was done. */
@Injectable({ providedIn: 'root' })
export class ShelfRenames {
  private readonly api = inject(Api);
  private readonly shelf = inject(ShelfStore);
  private readonly notices = inject(Notices);
  /** pieces that were renamed last, with the versions that they have since */
  private readonly last = signal<readonly { id: number; name: string; version: number }[]>([]);
  readonly undoable = this.last.asReadonly();

  /** One that cannot be saved is said and keeps its name. */
  async rename(pieces: readonly PieceSummary[], which: PieceName, renames: readonly Rename[]): Promise<void> {
    const renamed: { id: number; name: string; version: number }[] = [];
    for (const { of, from, to, says } of renames) {
      const piece = pieces.find(({ id }) => id === Number(of));
      if (!piece || says !== null || from === to) continue;
      const edit: Edit = { kind: which === 'name' ? 'rename-piece' : 'rename-mesh', name: to };
      await this.save(piece, piece.version, (history) => pushEdit(history, edit)).then(
        (version) => renamed.push({ id: piece.id, name: piece.name, version }),
        (error) => this.notices.say(`${piece.name}: ${sentenceOf(error)}`, true),
      );
    }
    this.last.set(renamed);
    await this.load();
  }

  /** Pieces that were changed since keep what they have, and are named. */
  async undo(): Promise<void> {
    for (const piece of this.last())
      await this.save(piece, piece.version, undo).catch((error) =>
        this.notices.say(`${piece.name}: ${sentenceOf(error)}`, true),
      );
    this.last.set([]);
    await this.load();
  }

  /** @returns the version that it has now */
  private async save(
    { id }: { id: number },
    version: number,
    change: (
      history: Awaited<ReturnType<Api['piece']>>['history'],
    ) => Awaited<ReturnType<Api['piece']>>['history'],
  ): Promise<number> {
    const { history } = await this.api.piece(id);
    return (await this.api.savePiece(id, version, { history: change(history) })).version;
  }

  private load(): Promise<void> {
    return this.shelf.load(this.shelf.yard!.id).catch((error: unknown) => this.notices.error(error));
  }
}
