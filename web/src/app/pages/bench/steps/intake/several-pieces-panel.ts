import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { counted, piecesIn } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Notices } from '../../../../state/notices';
import { ShelfStore } from '../../../../state/shelf-store';
import { Check } from '../../../../ui/check';
import { Stopped } from '../../../../workers/compute';

/** A file that holds several pieces can become them. */
@Component({
  selector: 'yb-several-pieces-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check],
  template: `
    @if (pieces() > 1) {
      <section class="panel">
        <h3>{{ pieces() }} pieces in one file</h3>
        <div class="row">
          <button type="button" class="act" (click)="split()" data-testid="split-pieces">
            Split into {{ pieces() }} pieces
          </button>
          <span class="faded">each stays where it is, with its shapes</span>
        </div>
        <yb-check [checked]="removing()" (changed)="removing.set($event)"
          >and remove this piece, with its versions and deliveries</yb-check
        >
      </section>
    }
  `,
})
export class SeveralPiecesPanel {
  private readonly bench = inject(BenchStore);
  private readonly shelf = inject(ShelfStore);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly document = toSignal(this.bench.document$);
  protected readonly pieces = computed(() => (this.document() ? piecesIn(this.document()!).length : 1));
  protected readonly removing = signal(false);

  /** Each piece gets a card of its own; this one stays unless the person says otherwise. */
  protected async split(): Promise<void> {
    const { id, yard } = this.bench.piece;
    try {
      const version = await this.bench.settled();
      const { document } = this.bench;
      const remove = this.removing();
      const added = await this.shelf.splitIntoPieces({ yardId: yard.id, id, version, document, remove });
      await this.router.navigate(['/yards', yard.id]);
      this.notices.say(
        `${document.name} was split into ${counted(added, 'piece')}; it ${remove ? 'was removed' : 'stays on the shelf'}.`,
      );
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }
}
