import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Stamp } from '@yard-brace/core';

export const STAMP_WORDS: Record<Stamp, string> = {
  clear: 'clear',
  look: 'look here',
  stopped: 'stopped',
  none: 'nothing yet',
};

/** A step's state, each with a shape of its own: ring with a tick, triangle, barred square, empty ring. */
@Component({
  selector: 'yb-stamp',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 16 16" role="img" [attr.aria-label]="words()">
      <title>{{ words() }}</title>
      @switch (stamp()) {
        @case ('clear') {
          <circle cx="8" cy="8" r="6.6" fill="var(--moss)" />
          <path d="M4.8 8.2l2.2 2.3 4.2-4.8" fill="none" stroke="var(--card)" stroke-width="1.7" />
        }
        @case ('look') {
          <path d="M8 1.6 15 14.4H1z" fill="var(--brass)" />
          <path d="M8 6v4M8 11.6v1.4" stroke="var(--card)" stroke-width="1.5" />
        }
        @case ('stopped') {
          <path d="M2 2h12v12H2z" fill="var(--vermilion)" />
          <path d="M4.6 8h6.8" stroke="var(--card)" stroke-width="2" />
        }
        @case ('none') {
          <circle cx="8" cy="8" r="6" fill="none" stroke="var(--faded)" stroke-width="1.1" />
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
      width: 15px;
      height: 15px;
      flex: none;
    }
    svg {
      width: 100%;
      height: 100%;
    }
  `,
})
export class StampMark {
  readonly stamp = input.required<Stamp>();
  protected readonly words = () => STAMP_WORDS[this.stamp()];
}
