import { NgComponentOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, type WorkingStep } from '@yard-brace/core';
import { Accordion, AccordionContent, AccordionHeader, AccordionPanel } from 'primeng/accordion';
import { BenchStore } from '../../state/bench-store';
import { Proposals } from '../../state/proposals';
import { Selection } from '../../state/selection';
import { TrialStore } from '../../state/trial-store';
import { Keymap } from '../../ui/keymap';
import { StampMark } from '../../ui/stamp';
import { STEPS } from './steps/registry';

/** The card that travels with a piece: its steps in working order, one open at a time. */
@Component({
  selector: 'yb-job-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NgComponentOutlet, Accordion, AccordionPanel, AccordionHeader, AccordionContent, StampMark],
  template: `
    <div class="title">
      <h2>Job card</h2>
      <span class="faded">{{ summary() }}</span>
    </div>
    <p-accordion #accordion [value]="open()" (valueChange)="turned($any($event))">
      @for (step of steps(); track step.id) {
        <p-accordion-panel [value]="step.id" [attr.data-panel]="step.id">
          <p-accordion-header [attr.data-step]="step.id">
            <span class="figures number">{{ step.number }}</span>
            <b>{{ step.name }}</b>
            <span class="note faded" [title]="step.said">{{ step.said }}</span>
            <yb-stamp [stamp]="step.stamp" />
          </p-accordion-header>
          <p-accordion-content>
            @if (step.id === open()) {
              <!-- Made anew for each piece: what was chosen for one is no choice for the next. -->
              @for (piece of pieces(); track piece?.id) {
                <ng-container *ngComponentOutlet="step.component" />
              }
            }
          </p-accordion-content>
        </p-accordion-panel>
      }
    </p-accordion>
  `,
  styleUrl: './card.css',
  styles: `
    .number {
      width: 20px;
      flex: none;
      color: var(--faded);
    }
    .note {
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-align: left;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-weight: 400;
    }
  `,
})
export class JobCard {
  private readonly bench = inject(BenchStore);
  private readonly selection = inject(Selection);
  private readonly card = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly judged = toSignal(this.bench.judged$);
  private readonly lastDelivery = toSignal(this.bench.delivered$);
  private readonly walks = toSignal(inject(TrialStore).walks$, { initialValue: [] });
  private readonly proposal = toSignal(inject(Proposals).proposal$, { requireSync: true });
  private readonly piece = toSignal(this.bench.piece$, { requireSync: true });
  protected readonly pieces = computed(() => [this.piece()]);
  private readonly accordion = viewChild.required<Accordion>('accordion');
  protected readonly open = signal<WorkingStep>('intake');

  protected readonly steps = computed(() => {
    const judged = this.judged();
    if (!judged) return [];
    const { document, tally } = judged;
    const proposal = this.proposal();
    const context = {
      document,
      profile: this.bench.profile,
      lastDelivery: this.lastDelivery() ?? null,
      walked: this.walks().map(({ agent }) => agent.name),
      proposedShapes:
        proposal && proposal.preview.proxies !== document.proxies ? proposal.preview.proxies.length : null,
    };
    return STEPS.map((step) => ({ ...step, said: step.note(context), stamp: tally[step.id] }));
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
    inject(Keymap).bind(
      STEPS.map(({ id, number }, i) => ({
        keys: [String(number)],
        label: STEPS.map((step) => step.number).join(' '),
        // One line in the list for all of them.
        help: i === 0 ? 'open a step of the job card' : '',
        act: () => this.turnTo(id),
      })),
    );
  }

  /** One step is always open: a click on the open one leaves it so. */
  protected turned(step: WorkingStep | null | undefined): void {
    if (step) this.turnTo(step);
    else this.accordion().value.set(this.open());
  }

  /** What was pointed at in the step that closes is no longer there to be left. */
  private turnTo(step: WorkingStep): void {
    this.selection.point(null);
    this.open.set(step);
    // A step that opens starts at its head, however far down the last one was read.
    const card = this.card.nativeElement;
    setTimeout(() => {
      const head = card.querySelector(`[data-step=${step}]`);
      const title = card.querySelector('.title');
      if (head && title)
        card.scrollTop += head.getBoundingClientRect().top - title.getBoundingClientRect().bottom;
    });
  }
}
