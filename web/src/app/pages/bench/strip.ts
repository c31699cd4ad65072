import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type PieceSummary, routes } from '@yard-brace/contract';
import { TallyMark } from '../../ui/tally';

/** The shelf as a narrow strip: the next piece is one click away. */
@Component({
  selector: 'yb-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, TallyMark],
  template: `
    <h2>Shelf, {{ pieces().length }} {{ pieces().length === 1 ? 'piece' : 'pieces' }}</h2>
    <ul>
      @for (piece of pieces(); track piece.id) {
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
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      overflow: hidden auto;
      padding: 10px 8px;
    }
    h2 {
      font-size: 11px;
      font-weight: 600;
      color: var(--faded);
      margin: 2px 2px 10px;
    }
    li {
      margin-bottom: 6px;
      border: 1px solid transparent;
      border-radius: var(--corner);
    }
    li:hover {
      border-color: var(--rule);
    }
    li.here {
      background: var(--card);
      border-color: var(--tide);
    }
    a {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 3px;
      padding: 5px 6px 7px;
      color: var(--ink);
      font-size: 12px;
      text-decoration: none;
    }
    .picture {
      aspect-ratio: 264 / 124;
      background: #ece6d9;
    }
    .picture img {
      display: block;
      width: 100%;
      height: auto;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class Strip {
  readonly pieces = input<readonly PieceSummary[]>([]);
  readonly current = input(0);
  protected readonly blob = routes.blob;
}
