import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { ProgressBar } from 'primeng/progressbar';
import { ImportReports, importSummary } from '../state/import-report';
import { Compute } from '../workers/compute';

export interface Crumb {
  name: string;
  link?: string;
}

/** The line across the top: where one is, what is being worked on, and what the page adds at either side. */
@Component({
  selector: 'yb-header',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, ProgressBar],
  template: `
    <header>
      <a class="brand" routerLink="/" aria-label="Yard Brace, all yards">
        <img src="mark.svg" alt="" width="26" height="26" />
        <b>Yard Brace</b>
      </a>
      <nav aria-label="Where you are">
        @for (place of places(); track place.name; let last = $last) {
          @if (place.link) {
            <a [routerLink]="place.link">{{ place.name }}</a>
          } @else {
            <b aria-current="page">{{ place.name }}</b>
          }
          @if (!last) {
            <span class="faded" aria-hidden="true">/</span>
          }
        }
      </nav>
      <ng-content select="[start]" />
      <span class="gap"></span>
      @if (imported(); as line) {
        <button type="button" class="quiet-button" (click)="reports.show()" data-testid="import-line">
          {{ line }}
        </button>
      }
      @if (task(); as task) {
        <span class="task" role="status">
          <span class="what">{{ task.what }}</span>
          <span
            role="progressbar"
            aria-label="Progress"
            aria-valuemin="0"
            aria-valuemax="100"
            [attr.aria-valuenow]="percent()"
          >
            <p-progressbar
              [value]="percent()"
              [showValue]="false"
              [style]="{ width: '70px' }"
              aria-hidden="true"
            />
          </span>
          <span class="figures">{{ percent() }} %</span>
          @if (task.stop) {
            <button type="button" class="quiet-button" (click)="task.stop()">Stop</button>
          }
        </span>
      }
      <ng-content />
      <a class="guide" routerLink="/guide">Guide</a>
    </header>
  `,
  styles: `
    header {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 18px;
      min-height: 44px;
      padding: 0 14px;
      background: var(--card);
      border-bottom: 1px solid var(--ink);
    }
    .brand {
      display: flex;
      align-items: center;
      gap: 12px;
      min-height: 24px;
      color: var(--ink);
      text-decoration: none;
    }
    nav {
      display: flex;
      align-items: center;
      gap: 7px;
      min-width: 0;
      white-space: nowrap;
    }
    nav a {
      display: inline-flex;
      align-items: center;
      min-height: 24px;
      color: var(--faded);
      text-decoration: none;
    }
    nav a:hover {
      color: var(--ink);
      text-decoration: underline;
    }
    nav b {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .gap {
      flex: 1;
    }
    .guide {
      display: inline-flex;
      align-items: center;
      min-height: 24px;
      color: var(--faded);
      text-decoration: none;
    }
    .guide:hover {
      color: var(--ink);
      text-decoration: underline;
    }
    .task {
      display: flex;
      align-items: center;
      gap: 9px;
      color: var(--faded);
      white-space: nowrap;
      min-width: 0;
    }
    .what {
      overflow: hidden;
      text-overflow: ellipsis;
      max-width: 190px;
    }
  `,
})
export class Header {
  readonly places = input<readonly Crumb[]>([]);
  protected readonly reports = inject(ImportReports);
  private readonly view = toSignal(this.reports.view$, { requireSync: true });
  private readonly report = toSignal(this.reports.report$, { requireSync: true });
  /** what became of the last import, while only its line is to be seen */
  protected readonly imported = computed(() => {
    const report = this.report();
    return this.view() === 'line' && report ? importSummary(report) : null;
  });
  protected readonly task = toSignal(inject(Compute).task$);
  protected readonly percent = computed(() => Math.round((this.task()?.share ?? 0) * 100));
}
