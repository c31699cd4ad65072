import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { type PieceSummary, routes } from '@yard-brace/contract';
import { counted } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { LongStrip } from '../../ui/long-strip';
import { Notices } from '../../state/notices';
import { SetOutDrag } from '../../state/set-out-drag';

/** The pieces of the yard: one is taken in the hand by a click, and put by a click in the view. */
@Component({
  selector: 'yb-piece-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, LongStrip],
  template: `
    <h2>Pieces</h2>
    @if (pieces().length > 8) {
      <input
        pInputText
        pSize="small"
        type="search"
        placeholder="Find"
        aria-label="Find a piece"
        [ngModel]="wanted()"
        (ngModelChange)="wanted.set($event)"
      />
    }
    <ng-template #row let-piece>
      <li [class.here]="piece.id === held()">
        <button
          type="button"
          [attr.aria-pressed]="piece.id === held()"
          [title]="piece.broken ?? 'Take ' + piece.name + ' in the hand, then click where it is to stand'"
          [disabled]="piece.broken !== null"
          (click)="take(piece.id)"
        >
          <span class="picture">
            @if (piece.picture) {
              <img [src]="blob(piece.picture)" alt="" width="264" height="124" />
            }
          </span>
          <span class="name">{{ piece.name }}</span>
          <span class="faded">{{ piece.shapes ? counted(piece.shapes, 'shape') : 'no shapes' }}</span>
        </button>
      </li>
    </ng-template>
    @if (shown().length) {
      <yb-long-strip [pieces]="shown()" [row]="row" />
    } @else {
      <p class="faded">
        {{ pieces().length ? 'No piece has that in its name.' : 'Import files on the shelf first.' }}
      </p>
    }
  `,
  styleUrl: '../../ui/strip.css',
  styles: `
    :host {
      width: 100%;
      height: 100%;
    }
    input {
      width: 100%;
      margin-bottom: 8px;
    }
    li.here {
      background: var(--card);
    }
    .faded {
      font-size: 11px;
    }
  `,
})
export class PieceStrip {
  readonly pieces = input<readonly PieceSummary[]>([]);
  private readonly drag = inject(SetOutDrag);
  private readonly notices = inject(Notices);
  private readonly hand = toSignal(this.drag.inHand$, { requireSync: true });
  protected readonly held = computed(() => this.hand()?.placement.piece ?? null);
  protected readonly wanted = signal('');
  protected readonly shown = computed(() =>
    this.pieces().filter(({ name }) => name.toLowerCase().includes(this.wanted().trim().toLowerCase())),
  );
  protected readonly blob = routes.blob;
  protected readonly counted = counted;

  protected take(piece: number): void {
    if (this.held() === piece) this.drag.letGo();
    else void this.drag.take(piece).catch((error: unknown) => this.notices.error(error));
  }
}
