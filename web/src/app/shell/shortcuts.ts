import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Escape } from './escape';
import { isTyping } from './keys';

const KEYS: [string, string][] = [
  ['1 … 6, 8', 'open a step of the job card'],
  ['Ctrl K', 'find a piece'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z, Ctrl Y', 'redo'],
  ['V, held', 'flip the veil between art and proxies'],
  ['Home', 'fit the piece to the view'],
  ['P F S T', 'look freely, from the front, the side, the top'],
  ['C', 'cut the piece open'],
  ['W B K', 'wireframe, fronts and backs, checker'],
  ['D', 'how far the proxies lie from the art'],
  ['← →', 'along the ladder, when it has the focus'],
  ['G', 'choose faces, or stop choosing'],
  ['click, Shift, Alt', 'choose instead, add, take away'],
  ['+ − I', 'grow, shrink, invert the selection'],
  ['A H', 'chosen part alone, chosen part hidden'],
  ['M', 'measure between two points'],
  ['drag', 'orbit'],
  ['right drag, Shift drag', 'pan'],
  ['wheel', 'zoom'],
  ['Esc', 'leave a proposal, a question, a selection'],
  ['?', 'show or hide this list'],
];

/** The keys, on one card; a question mark brings it and takes it away. */
@Component({
  selector: 'yb-shortcuts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'key($event)' },
  template: `
    @if (shown()) {
      <aside role="dialog" aria-label="Keys">
        <h2>Keys</h2>
        <dl>
          @for (row of rows; track row[0]) {
            <dt class="figures">{{ row[0] }}</dt>
            <dd>{{ row[1] }}</dd>
          }
        </dl>
        <button type="button" class="quiet-button" (click)="shown.set(false)">Close</button>
      </aside>
    }
  `,
  styles: `
    aside {
      position: fixed;
      z-index: 40;
      left: 50%;
      bottom: 48px;
      translate: -50% 0;
      padding: 16px 20px;
      background: var(--card);
      border: 1px solid var(--ink);
      border-radius: var(--corner);
    }
    h2 {
      font-size: 14px;
      margin-bottom: 8px;
    }
    dl {
      display: grid;
      grid-template-columns: auto auto;
      gap: 4px 18px;
      margin-bottom: 10px;
    }
  `,
})
export class Shortcuts {
  protected readonly rows = KEYS;
  protected readonly shown = signal(false);

  constructor() {
    inject(Escape).register('key list', () => {
      const shown = this.shown();
      this.shown.set(false);
      return shown;
    });
  }

  protected key(event: KeyboardEvent): void {
    if (isTyping(event)) return;
    if (event.key === '?') this.shown.update((shown) => !shown);
  }
}
