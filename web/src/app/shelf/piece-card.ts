import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type PieceSummary, routes } from '@yard-brace/contract';
import { counted, sizeText } from '../shell/figures';
import { TallyMark } from '../shell/tally';

/** A piece on the shelf: picture, tally, size, counts, and a box to choose it with others. */
@Component({
  selector: 'yb-piece-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, TallyMark],
  template: `
    @let one = piece();
    <a [routerLink]="['/pieces', one.id]" [attr.aria-label]="one.name">
      <span class="picture">
        @if (one.picture) {
          <img [src]="blob(one.picture)" alt="" width="264" height="124" />
        } @else if (one.broken) {
          <span class="broken">cannot be opened</span>
        } @else {
          <span class="faded">drawing …</span>
        }
      </span>
      <span class="line">
        <b>{{ one.name }}</b>
        <yb-tally [tally]="one.tally" />
      </span>
      @if (one.broken) {
        <span class="faded">its older versions are kept: open it to go back to one</span>
      } @else {
        <span class="figures faded">{{ sizeText(one.size) }}</span>
        <span class="faded">{{ counts() }}</span>
      }
    </a>
    <input
      type="checkbox"
      [checked]="chosen()"
      (change)="choose.emit()"
      [attr.aria-label]="'Choose ' + one.name"
    />
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
    :host(:hover),
    :host(:focus-within) {
      border-color: var(--ink);
    }
    :host(.chosen) {
      border-color: var(--tide);
    }
    a {
      display: grid;
      gap: 3px;
      padding: 8px 10px 10px;
      color: var(--ink);
      text-decoration: none;
    }
    .picture {
      display: grid;
      place-items: center;
      aspect-ratio: 264 / 124;
      margin-bottom: 4px;
      background: var(--paper);
    }
    .picture img {
      width: 100%;
      height: auto;
    }
    .broken {
      color: var(--vermilion);
      font-weight: 600;
    }
    .line {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: 8px;
    }
    input {
      position: absolute;
      right: 14px;
      top: 12px;
      width: 15px;
      height: 15px;
      margin: 0;
      accent-color: var(--tide);
    }
  `,
  host: { '[class.chosen]': 'chosen()' },
})
export class PieceCard {
  readonly piece = input.required<PieceSummary>();
  readonly chosen = input(false);
  readonly choose = output();
  protected readonly blob = routes.blob;
  protected readonly sizeText = sizeText;

  protected counts(): string {
    const { triangles, shapes } = this.piece();
    return `${counted(triangles, 'triangle')}, ${shapes ? counted(shapes, 'shape') : 'no shapes yet'}`;
  }
}
