import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Finding, WorkingStep } from '@yard-brace/core';
import { BenchStore } from '../../state/bench-store';
import { Operations } from '../../state/operations';
import { SetFixes } from '../../state/set-fixes';
import { ViewMarks } from '../../state/view-marks';
import { Disclosure } from '../../ui/disclosure';
import { RulePicture } from '../../ui/rule-picture';

/** What there is to say about one step: each finding with its reason and, where there is one, its fix. */
@Component({
  selector: 'yb-finding-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Disclosure, RulePicture],
  template: `
    @if (findings().length) {
      <ul aria-label="Findings">
        @for (finding of findings(); track finding.id) {
          <li
            [class]="finding.severity"
            [attr.data-finding]="finding.id"
            (pointerenter)="light(finding)"
            (pointerleave)="light(null)"
            (focusin)="light(finding)"
            (focusout)="light(null)"
          >
            <yb-disclosure [label]="finding.says" more="why">
              <p class="faded">{{ finding.why }}</p>
              <yb-rule-picture [rule]="finding.id" />
            </yb-disclosure>
            <div class="acts">
              @if (finding.fix; as fix) {
                <button type="button" class="quiet-button" (click)="bench.apply(fix.edit)">
                  {{ fix.label }}
                </button>
              }
              @if (finding.setFix; as fix) {
                <button
                  type="button"
                  class="quiet-button"
                  [disabled]="fixing()"
                  (click)="fixes.propose(fix.fix)"
                >
                  {{ fix.label }} …
                </button>
              }
              @if (finding.bareFaces) {
                <button type="button" class="quiet-button" [disabled]="fixing()" (click)="fixes.chooseBare()">
                  Choose their faces
                </button>
                <button
                  type="button"
                  class="quiet-button"
                  title="Nothing collides with these faces: they need no shapes, and are not measured against"
                  [disabled]="fixing()"
                  (click)="fixes.leaveOutBare()"
                >
                  Leave them out
                </button>
              }
              @if (finding.at; as at) {
                <button type="button" class="quiet-button" (click)="marks.goTo(at)">Go there</button>
              }
              @if (finding.lookedAt) {
                <button type="button" class="quiet-button" (click)="bench.lookedAt()">Looked at</button>
              }
              @if (finding.mend; as mend) {
                <button type="button" class="quiet-button" (click)="operations.propose(mend.operation)">
                  {{ mend.label }} …
                </button>
              }
            </div>
          </li>
        }
      </ul>
    }
  `,
  styleUrl: '../../ui/findings.css',
})
export class FindingList {
  protected readonly bench = inject(BenchStore);
  protected readonly operations = inject(Operations);
  protected readonly fixes = inject(SetFixes);
  protected readonly marks = inject(ViewMarks);
  protected readonly fixing = toSignal(this.fixes.working$, { requireSync: true });
  readonly step = input.required<WorkingStep>();
  private readonly judged = toSignal(this.bench.judged$);
  protected readonly findings = computed(
    () => this.judged()?.findings.filter(({ step }) => step === this.step()) ?? [],
  );

  /** Pointing at a fault that has a place lights it in the view. */
  protected light(finding: Finding | null): void {
    if (finding && !finding.places) return;
    void this.operations.lightFault(finding?.places ?? null);
  }
}
