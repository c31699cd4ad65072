import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import type { Job } from '@yard-brace/contract';
import { counted } from '@yard-brace/core';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { JobsStore } from '../state/jobs-store';
import { momentText } from './moment';

/** What runs on the server, as one quiet line in the header: a count, a bar, and a list when it is opened. */
@Component({
  selector: 'yb-jobs-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Popover, ProgressBar],
  template: `
    @if (jobs().length) {
      <button
        type="button"
        class="quiet-button line"
        (click)="list.toggle($event)"
        aria-haspopup="dialog"
        data-testid="jobs-line"
      >
        @if (running(); as job) {
          <span>{{ job.name }}</span>
          <p-progressbar
            [value]="percent(job)"
            [showValue]="false"
            [style]="{ width: '60px' }"
            aria-hidden="true"
          />
          <span class="figures">{{ job.done + job.failed }} of {{ job.pieces }}</span>
        } @else {
          Jobs
        }
      </button>
      <p-popover #list ariaLabel="Jobs">
        <div class="jobs" data-testid="jobs">
          <b>Jobs</b>
          @for (job of jobs(); track job.id) {
            <div class="job">
              <span class="grow">
                <button type="button" class="name" (click)="open(job); list.hide()">{{ job.name }}</button>
                <span class="faded">{{ stateText(job) }}</span>
              </span>
              @if (job.state === 'running') {
                @if (waitsBehind(job)) {
                  <button type="button" class="quiet-button" (click)="store.first(job.id)">Do first</button>
                }
                <button type="button" class="quiet-button" (click)="store.stop(job.id)">Stop</button>
              }
              @if (job.state === 'stopped') {
                <button type="button" class="quiet-button" (click)="store.goOn(job.id)">Go on</button>
              }
            </div>
            @if (job.state !== 'ended') {
              <span
                role="progressbar"
                [attr.aria-label]="'Progress of ' + job.name"
                aria-valuemin="0"
                aria-valuemax="100"
                [attr.aria-valuenow]="percent(job)"
              >
                <p-progressbar [value]="percent(job)" [showValue]="false" aria-hidden="true" />
              </span>
            }
          }
        </div>
      </p-popover>
    }
  `,
  styles: `
    .line {
      color: var(--faded);
      white-space: nowrap;
    }
    .jobs {
      display: grid;
      gap: 6px;
      width: 360px;
      max-height: 60vh;
      overflow-y: auto;
    }
    .job {
      display: flex;
      align-items: center;
      gap: 8px;
      padding-top: 4px;
      border-top: 1px dotted var(--rule);
    }
    .grow {
      display: grid;
      flex: 1;
      min-width: 0;
    }
    .name {
      justify-self: start;
      min-height: 24px;
      padding: 0;
      border: 0;
      background: none;
      color: var(--tide);
      font: inherit;
      text-decoration: underline dotted;
      cursor: pointer;
    }
  `,
})
export class JobsLine {
  protected readonly store = inject(JobsStore);
  private readonly router = inject(Router);
  readonly yardId = input.required<number>();
  protected readonly jobs = toSignal(this.store.jobs$, { requireSync: true });
  private readonly unfinished = toSignal(this.store.open$, { requireSync: true });
  protected readonly running = computed(
    () => this.unfinished().find(({ state }) => state === 'running') ?? null,
  );

  constructor() {
    effect(() => this.store.watch(this.yardId()));
  }

  protected percent = ({ share }: Job) => Math.round(share * 100);

  protected waitsBehind(job: Job): boolean {
    const first = this.running();
    return first !== null && first.id !== job.id;
  }

  protected stateText({ kind, state, pieces, done, failed, endedAt }: Job): string {
    const all = counted(pieces, kind === 'import' ? 'file' : 'piece');
    const faults = failed ? `, ${failed} failed` : '';
    if (state === 'ended') return `${all}${faults}, ${momentText(endedAt!)}`;
    return `${done + failed} of ${all}${faults}${state === 'stopped' ? ', stopped' : ''}`;
  }

  protected open(job: Job): void {
    void this.router.navigate(['/jobs', job.id]);
  }
}
