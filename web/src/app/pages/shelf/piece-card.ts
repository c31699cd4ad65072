import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type PieceSummary, routes } from '@yard-brace/contract';
import { counted, sizeText } from '@yard-brace/core';
import { Check } from '../../ui/check';
import { TallyMark } from '../../ui/tally';

/** A piece on the shelf: picture, tally, size, counts, and a box to choose it with others. */
@Component({
  selector: 'yb-piece-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, TallyMark, Check],
  host: { '[class.chosen]': 'chosen()' },
  template: `
    @let one = piece();
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
      <a [routerLink]="['/pieces', one.id]" [title]="one.name"
        ><b>{{ one.name }}</b></a
      >
      <yb-tally [tally]="one.tally" />
    </span>
    @if (one.broken) {
      <span class="faded">its older versions are kept: open it to go back to one</span>
    } @else {
      <span class="figures faded">{{ sizeText(one.size) }}</span>
      <span class="faded">{{ counts() }}</span>
    }
    <yb-check [checked]="chosen()" (changed)="choose.emit()" [label]="'Choose ' + one.name" />
  `,
  styles: `
    :host {
      position: relative;
      display: grid;
      align-content: start;
      gap: 3px;
      height: 100%;
      padding: 8px 10px 10px;
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
      min-width: 0;
      color: var(--ink);
      text-decoration: none;
    }
    /* The whole card is the link; its box to choose it lies over it. */
    a::after {
      content: '';
      position: absolute;
      inset: 0;
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
      min-width: 0;
    }
    .line b {
      display: block;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    yb-check {
      z-index: 1;
      position: absolute;
      right: 14px;
      top: 10px;
    }
  `,
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
