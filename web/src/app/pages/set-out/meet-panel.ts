import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, countText, shiftFor } from '@yard-brace/core';
import { SetOutActs } from '../../state/set-out-acts';
import { SetOutPieces } from '../../state/set-out-pieces';
import { SetOutCheck, type ToldFault } from '../../state/set-out-check';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutSelection } from '../../state/set-out-selection';
import { Disclosure } from '../../ui/disclosure';
import { RulePicture } from '../../ui/rule-picture';

/** Faults that are shown at first. */
const FIRST_FAULTS = 30;

/** Whether the pieces meet: every fault with its reason, the worst first, where it is and what mends it. */
@Component({
  selector: 'yb-meet-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Disclosure, RulePicture],
  template: `
    <section class="panel" data-testid="meet-panel">
      <h3 aria-live="polite">{{ summary() }}</h3>
      <ul aria-label="What does not meet">
        @for (told of shown(); track told.id) {
          <li
            [class]="told.words.severity"
            [attr.data-fault]="told.fault.kind"
            (pointerenter)="light(told)"
            (pointerleave)="light(null)"
            (focusin)="light(told)"
            (focusout)="light(null)"
          >
            <yb-disclosure [label]="told.words.says" more="why">
              <p class="faded">{{ told.words.why }}</p>
              <yb-rule-picture [rule]="'set-' + told.fault.kind" />
            </yb-disclosure>
            <div class="acts">
              <button type="button" class="quiet-button" (click)="go(told)">Go there</button>
              @if (told.words.mend) {
                <button type="button" class="quiet-button" (click)="mend(told)">{{ told.words.mend }}</button>
              }
            </div>
          </li>
        }
      </ul>
      @if (faults().length > shown().length) {
        <button type="button" class="quiet-button" (click)="all.set(true)">
          Show all {{ count(faults().length) }}
        </button>
      }
    </section>
  `,
  styleUrl: '../../ui/findings.css',
})
export class MeetPanel {
  private readonly acts = inject(SetOutActs);
  private readonly others = inject(SetOutPieces);
  private readonly looks = inject(SetOutLookStore);
  private readonly selection = inject(SetOutSelection);
  private readonly checking = inject(SetOutCheck);
  private readonly check = toSignal(this.checking.check$, { requireSync: true });
  private readonly working = toSignal(this.checking.working$, { requireSync: true });
  protected readonly faults = toSignal(this.checking.faults$, { initialValue: [] });
  protected readonly all = signal(false);
  protected readonly count = countText;
  protected readonly shown = computed(() => this.faults().slice(0, this.all() ? undefined : FIRST_FAULTS));
  protected readonly summary = computed(() => {
    const check = this.check();
    if (!check) return 'Looking whether they meet …';
    const seams = check.faults.filter(({ kind }) => kind === 'seam').length;
    const ends = check.meeting + seams;
    const wait = this.working() ? ', looking again …' : '';
    const notes = this.faults().filter(({ words }) => words.severity === 'info').length;
    const faults = this.faults().length - notes;
    const said = [
      ...(faults ? [counted(faults, 'fault')] : []),
      ...(notes ? [counted(notes, 'note')] : []),
      ...(seams ? [`${countText(check.meeting)} of ${counted(ends, 'seam')} meet`] : []),
      ...(ends && !seams ? [`${counted(ends, 'seam')}, all meet`] : []),
    ];
    return `${said.join('; ') || 'Nothing stands against anything'}${wait}`;
  });

  protected light(told: ToldFault | null): void {
    this.selection.point(told?.fault.a ?? null);
  }

  protected go({ fault }: ToldFault): void {
    const ids = 'b' in fault ? [fault.a, fault.b] : [fault.a];
    this.selection.set(ids);
    this.looks.goTo(ids);
  }

  protected mend({ fault }: ToldFault): void {
    if (fault.kind === 'mirror-forgotten') void this.others.mirrorShapes(fault);
    else if (shiftFor(fault)) this.acts.mend(fault);
  }
}
