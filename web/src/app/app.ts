import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterOutlet } from '@angular/router';
import { ImportReportPanel } from './shelf/import-report-panel';
import { Notices } from './shell/notices';
import { Shortcuts } from './shell/shortcuts';

@Component({
  selector: 'yb-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, Shortcuts, ImportReportPanel],
  template: `
    <router-outlet />
    <yb-shortcuts />
    <yb-import-report />
    <section class="notices" aria-live="polite">
      @for (notice of notices(); track notice.id) {
        <p [class.bad]="notice.bad" role="alert">
          {{ notice.text }}
          <button
            type="button"
            class="quiet-button"
            (click)="service.putAway(notice.id)"
            aria-label="Dismiss this notice"
          >
            Dismiss
          </button>
        </p>
      }
    </section>
  `,
  styles: `
    .notices {
      position: fixed;
      z-index: 50;
      left: 162px;
      bottom: 38px;
      display: grid;
      gap: 6px;
      max-width: 560px;
      max-height: 42vh;
      overflow-y: auto;
    }
    p {
      display: flex;
      gap: 12px;
      align-items: start;
      justify-content: space-between;
      padding: 8px 10px 8px 12px;
      background: var(--card);
      border: 1px solid var(--ink);
      border-left: 4px solid var(--moss);
      overflow-wrap: anywhere;
    }
    .bad {
      border-left-color: var(--vermilion);
    }
    button {
      white-space: nowrap;
    }
  `,
})
export class App {
  protected readonly service = inject(Notices);
  protected readonly notices = toSignal(this.service.notices$, { initialValue: [] });
}
