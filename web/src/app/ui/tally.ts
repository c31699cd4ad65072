import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type Tally, WORKING_STEPS } from '@yard-brace/core';
import { STAMP_WORDS } from './stamp';

/** The stamps in miniature, a notch a working step: full, half, barred or empty. */
@Component({
  selector: 'yb-tally',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="notches" role="img" [attr.aria-label]="words()" [title]="words()">
      @for (notch of notches(); track notch.step) {
        <i [class]="notch.stamp"></i>
      }
    </span>
  `,
  styles: `
    .notches {
      display: flex;
      gap: 2px;
      min-width: 0;
      vertical-align: middle;
    }
    i {
      box-sizing: border-box;
      flex: 1 1 14px;
      min-width: 2px;
      max-width: 14px;
      height: 6px;
      border: 1px solid var(--faded);
    }
    .clear {
      background: var(--moss);
      border-color: var(--moss);
    }
    .look {
      background: linear-gradient(115deg, var(--brass) 52%, transparent 53%);
      border-color: var(--brass);
    }
    .stopped {
      background: var(--vermilion);
      border-color: var(--vermilion);
      height: 8px;
      margin-top: -1px;
    }
  `,
})
export class TallyMark {
  readonly tally = input.required<Tally>();
  protected readonly notches = computed(() =>
    WORKING_STEPS.map((step) => ({ step, stamp: this.tally()[step] })),
  );
  protected readonly words = computed(() =>
    this.notches()
      .map(({ step, stamp }) => `${step} ${STAMP_WORDS[stamp]}`)
      .join(', '),
  );
}
