import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type PieceSummary, routes } from '@yard-brace/contract';
import { LongStrip } from '../../ui/long-strip';
import { TallyMark } from '../../ui/tally';

/** The shelf as a narrow strip: the next piece is one click away. */
@Component({
  selector: 'yb-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LongStrip, RouterLink, TallyMark],
  template: `
    <h2>Shelf, {{ pieces().length }} {{ pieces().length === 1 ? 'piece' : 'pieces' }}</h2>
    <ng-template #row let-piece>
      <li [class.here]="piece.id === current()">
        <a
          [routerLink]="['/pieces', piece.id]"
          [attr.aria-labelledby]="'strip-' + piece.id"
          [attr.aria-current]="piece.id === current() ? 'page' : null"
        >
          <span class="picture">
            @if (piece.picture) {
              <img [src]="blob(piece.picture)" alt="" width="264" height="124" />
            }
          </span>
          <span class="name" [title]="piece.name" [id]="'strip-' + piece.id">{{ piece.name }}</span>
          <yb-tally [tally]="piece.tally" />
        </a>
      </li>
    </ng-template>
    <yb-long-strip [pieces]="pieces()" [row]="row" [current]="current()" />
  `,
  styleUrl: '../../ui/strip.css',
})
export class Strip {
  readonly pieces = input<readonly PieceSummary[]>([]);
  readonly current = input(0);
  protected readonly blob = routes.blob;
}
