import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Finding, WorkingStep } from '@yard-brace/core';
import { BenchStore } from './bench-store';
import { Operations } from './operations';

/** What there is to say about one step: each finding with its reason and, where there is one, its mend. */
@Component({
  selector: 'yb-finding-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (finding of findings(); track finding.id) {
        <li
          [class]="finding.weight"
          [attr.data-finding]="finding.id"
          (pointerenter)="light(finding)"
          (pointerleave)="light(null)"
          (focusin)="light(finding)"
          (focusout)="light(null)"
        >
          <details>
            <summary>{{ finding.says }} <span class="why">why</span></summary>
            <p class="faded">{{ finding.why }}</p>
          </details>
          @if (finding.fix; as fix) {
            <button type="button" class="quiet-button" (click)="store.apply(fix.edit)">
              {{ fix.label }}
            </button>
          }
          @if (finding.mend; as mend) {
            <button type="button" class="quiet-button" (click)="operations.propose(mend.operation)">
              {{ mend.label }} …
            </button>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    :host:not(:has(li)) {
      display: none;
    }
    ul {
      display: grid;
      gap: 1px;
    }
    li {
      padding: 5px 8px 5px 10px;
      border-left: 3px solid var(--rule);
      background: var(--paper);
    }
    .look {
      border-left-color: var(--brass);
    }
    .stop {
      border-left: 6px solid var(--vermilion);
    }
    summary {
      cursor: pointer;
      list-style: none;
    }
    .why {
      color: var(--tide);
      text-decoration: underline dotted;
    }
    p {
      margin-top: 3px;
    }
    button {
      margin: 2px 0 0 -4px;
      font-weight: 600;
    }
  `,
})
export class FindingList {
  protected readonly store = inject(BenchStore);
  protected readonly operations = inject(Operations);
  readonly step = input.required<WorkingStep>();
  private readonly judged = toSignal(this.store.judged$);
  protected readonly findings = computed(
    () => this.judged()?.findings.filter(({ step }) => step === this.step()) ?? [],
  );

  /** Pointing at a fault that has a place lights it in the view. */
  protected light(finding: Finding | null): void {
    if (finding && !finding.places) return;
    void this.operations.lightFault(finding?.places ?? null);
  }
}
