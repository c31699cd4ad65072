import { inject, Injectable, type OnDestroy } from '@angular/core';
import { type Edit, listText, pushEdit } from '@yard-brace/core';
import type { Subscription } from 'rxjs';
import { Api } from '../api/api';
import { sentenceOf } from '../api/told';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import { type Proposal, Proposals } from './proposals';

/** The pieces beside the one on the bench grow with it, once that is kept: one step to undo in each. */
@Injectable()
export class SetGrowth implements OnDestroy {
  private readonly api = inject(Api);
  private readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  private readonly subscription: Subscription = inject(Proposals).kept$.subscribe(
    (proposal) => void this.grow(proposal),
  );

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private async grow({ beside }: Proposal): Promise<void> {
    if (!beside) return;
    const { pieces, factor, about } = beside;
    const { id: onBench } = this.bench.piece;
    const edit: Edit = { kind: 'resize', factor, about };
    const grown: string[] = [];
    for (const { id, name } of pieces)
      try {
        const { version, history } = await this.api.piece(id);
        await this.api.savePiece(id, version, { history: pushEdit(history, edit) });
        grown.push(`“${name}”`);
      } catch (error) {
        this.notices.say(`“${name}” stays as it is: ${sentenceOf(error)}`, true);
      }
    if (grown.length)
      this.notices.say(
        `${listText(grown)} grew along; ${grown.length > 1 ? 'each of them has' : 'it has'} one step to undo.`,
      );
    // They are drawn as they are now, unless the person turned to another piece meanwhile.
    if (this.bench.piece.id !== onBench) return;
    this.bench.showBeside([]);
    this.bench.showBeside(pieces.map(({ id }) => id));
  }
}
