import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RULE_PICTURES } from './rule-pictures';

/** A small picture of what a rule is about: art hatched, shapes outlined, what is wrong in red. */
@Component({
  selector: 'yb-rule-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (picture(); as picture) {
      <svg viewBox="0 0 120 60" width="120" height="60" role="img" [attr.aria-label]="picture.says">
        @for (path of picture.art; track $index) {
          <path class="art" [attr.d]="path" />
        }
        @for (path of picture.shapes; track $index) {
          <path class="shape" [attr.d]="path" />
        }
        @for (path of picture.wrong; track $index) {
          <path class="wrong" [attr.d]="path" />
        }
      </svg>
    }
  `,
  styles: `
    svg {
      display: block;
      margin-top: 6px;
      background: var(--card);
      border: 1px solid var(--rule);
    }
    .art {
      fill: #cfc6b3;
      stroke: var(--ink);
      stroke-width: 0.8;
    }
    .shape {
      fill: #17616e33;
      stroke: var(--tide);
      stroke-width: 1.4;
    }
    .wrong {
      fill: #c8412b55;
      stroke: var(--vermilion);
      stroke-width: 1.2;
      stroke-dasharray: 3 2;
    }
  `,
})
export class RulePicture {
  /** id of the finding */
  readonly rule = input.required<string>();
  protected readonly picture = computed(() => RULE_PICTURES[this.rule()]);
}
