import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { ProgressBar } from 'primeng/progressbar';
import { Compute } from '../compute/compute';

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
            <span class="faded">/</span>
          }
        }
      </nav>
      <ng-content select="[start]" />
      <span class="gap"></span>
      @if (task(); as task) {
        <span class="task" role="status">
          <span class="what">{{ task.what }}</span>
          <p-progressbar
            [value]="percent(task.share)"
            [showValue]="false"
            [style]="{ width: '70px' }"
            aria-label="Progress"
          />
          <span class="figures">{{ percent(task.share) }} %</span>
          @if (task.stoppable) {
            <button type="button" class="quiet-button" (click)="compute.stop()">Stop</button>
          }
        </span>
      }
      <ng-content />
    </header>
  `,
  styles: `
    header {
      display: flex;
      align-items: center;
      gap: 18px;
      height: 44px;
      padding: 0 14px;
      background: var(--card);
      border-bottom: 1px solid var(--ink);
    }
    .brand {
      display: flex;
      align-items: center;
      gap: 12px;
      color: var(--ink);
      text-decoration: none;
    }
    nav {
      display: flex;
      gap: 7px;
      min-width: 0;
      white-space: nowrap;
    }
    nav a {
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
  protected readonly compute = inject(Compute);
  readonly places = input<readonly { name: string; link?: string }[]>([]);
  protected readonly task = toSignal(this.compute.task$);
  protected readonly percent = (share: number) => Math.round(share * 100);
}
