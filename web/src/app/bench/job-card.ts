import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { stepNumber, WORKING_STEPS, type WorkingStep } from '@yard-brace/core';
import { map } from 'rxjs';
import { counted } from '../shell/figures';
import { Escape } from '../shell/escape';
import { isTyping } from '../shell/keys';
import { StampMark } from '../shell/stamp';
import { BenchStore } from './bench-store';
import { DeliveryStep } from './delivery-step';
import { IntakeStep } from './intake-step';
import { NamesStep } from './names-step';
import { PartsStep } from './parts-step';
import { PivotStep } from './pivot-step';
import { ProxiesStep } from './proxies-step';
import { SizeStep } from './size-step';
import { STEP_NAMES, stepNote } from './step-notes';

/** The card that travels with a piece: its steps in working order, one open at a time. */
@Component({
  selector: 'yb-job-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StampMark, IntakeStep, PartsStep, SizeStep, PivotStep, ProxiesStep, NamesStep, DeliveryStep],
  host: { '(document:keydown)': 'key($event)' },
  template: `
    <header>
      <h2>Job card</h2>
      <span class="faded">{{ summary() }}</span>
    </header>
    @for (entry of steps(); track entry.step) {
      <section [class.open]="entry.step === open()">
        <h3>
          <button
            type="button"
            (click)="turnTo(entry.step)"
            [attr.aria-expanded]="entry.step === open()"
            [attr.data-step]="entry.step"
          >
            <span class="figures number">{{ entry.number }}</span>
            <b>{{ entry.name }}</b>
            <span class="note faded" [title]="entry.note">{{ entry.note }}</span>
            <yb-stamp [stamp]="entry.stamp" />
          </button>
        </h3>
        @if (entry.step === open()) {
          <div class="body">
            @switch (entry.step) {
              @case ('intake') {
                <yb-intake-step />
              }
              @case ('parts') {
                <yb-parts-step />
              }
              @case ('size') {
                <yb-size-step />
              }
              @case ('pivot') {
                <yb-pivot-step />
              }
              @case ('proxies') {
                <yb-proxies-step />
              }
              @case ('names') {
                <yb-names-step />
              }
              @case ('delivery') {
                <yb-delivery-step />
              }
            }
          </div>
        }
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      overflow: hidden auto;
      background: var(--card);
    }
    header {
      position: sticky;
      z-index: 1;
      top: 0;
      background: var(--card);
      display: flex;
      align-items: baseline;
      justify-content: space-between;
      padding: 11px 14px 9px;
      border-bottom: 1px solid var(--ink);
    }
    h2 {
      font-size: 14px;
    }
    section {
      border-bottom: 1px solid var(--rule);
    }
    section.open {
      border-bottom-color: var(--ink);
    }
    h3 {
      margin: 0;
      font: inherit;
    }
    h3 button {
      display: flex;
      align-items: center;
      gap: 8px;
      width: 100%;
      min-height: 32px;
      padding: 0 14px;
      text-align: left;
      background: none;
      border: 0;
      cursor: pointer;
    }
    h3 button:focus-visible {
      outline-offset: -3px;
    }
    section:not(.open) button:hover {
      background: var(--paper);
    }
    .number {
      width: 20px;
      color: var(--faded);
    }
    .note {
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .body {
      padding: 4px 14px 16px 42px;
    }
  `,
})
export class JobCard {
  private readonly store = inject(BenchStore);
  private readonly card = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly judged = toSignal(this.store.judged$);
  private readonly piece = toSignal(this.store.piece$);
  private readonly lastDelivery = toSignal(this.store.delivered$);
  private readonly proposed = toSignal(
    this.store.proposal$.pipe(map((proposal) => proposal?.proxies.length ?? null)),
  );
  protected readonly open = signal<WorkingStep>('intake');

  protected readonly steps = computed(() => {
    const judged = this.judged();
    if (!judged || !this.piece()) return [];
    return WORKING_STEPS.map((step) => ({
      step,
      number: stepNumber(step),
      name: STEP_NAMES[step],
      note: stepNote(
        step,
        judged.document,
        this.store.profile,
        this.lastDelivery() ?? null,
        this.proposed() ?? null,
      ),
      stamp: judged.tally[step],
    }));
  });

  protected readonly summary = computed(() => {
    const stamps = this.steps().map(({ stamp }) => stamp);
    const stopped = stamps.filter((stamp) => stamp === 'stopped').length;
    const look = stamps.filter((stamp) => stamp === 'look').length;
    if (stopped) return `${counted(stopped, 'step')} stopped`;
    if (look) return `${counted(look, 'step')} to look at`;
    return stamps.includes('none') ? 'nothing to look at' : 'all clear';
  });

  constructor() {
    inject(Escape).register('proposal', () => this.store.leaveProposal());
  }

  /** What was pointed at in the step that closes is no longer there to be left. */
  protected turnTo(step: WorkingStep): void {
    this.store.lit$.next(null);
    this.open.set(step);
    // A step that opens starts at its head, however far down the last one was read.
    const card = this.card.nativeElement;
    setTimeout(() => {
      const head = card.querySelector(`[data-step=${step}]`);
      if (head) card.scrollTop += head.getBoundingClientRect().top - card.getBoundingClientRect().top - 42;
    });
  }

  protected key(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = WORKING_STEPS.find((candidate) => String(stepNumber(candidate)) === event.key);
    if (step) this.turnTo(step);
  }
}
