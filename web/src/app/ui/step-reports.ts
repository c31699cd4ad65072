import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Stamp, StepReport } from '@yard-brace/core';
import { StampMark } from './stamp';

const STAMPS: Record<StepReport['outcome'], Stamp> = { done: 'clear', skipped: 'none', stopped: 'stopped' };
const WORDS: Record<StepReport['outcome'], string> = { done: '', skipped: 'Skipped: ', stopped: '' };

/** What became of each step of a recipe, one below the other. */
@Component({
  selector: 'yb-step-reports',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StampMark],
  template: `
    <ol data-testid="step-reports">
      @for (step of steps(); track $index) {
        <li>
          <yb-stamp [stamp]="stamps[step.outcome]" />
          <span
            >{{ step.label }} <span class="faded">{{ words[step.outcome] }}{{ step.says }}</span></span
          >
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: grid;
      gap: 4px;
    }
    li {
      display: flex;
      gap: 8px;
    }
    yb-stamp {
      margin-top: 2px;
    }
  `,
})
export class StepReports {
  readonly steps = input.required<readonly StepReport[]>();
  protected readonly stamps = STAMPS;
  protected readonly words = WORDS;
}
