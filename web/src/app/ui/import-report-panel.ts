import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { counted } from '@yard-brace/core';
import { ExtrasChoice } from './extras-choice';
import { type ImportEntry, ImportReports, type ImportState, importSummary } from '../state/import-report';

const STATES: Record<ImportState, string> = {
  waiting: 'waiting',
  reading: 'reading …',
  choosing: 'holds more than its art: tick what is taken',
  read: 'imported',
  sending: 'being sent',
  'handed-over': 'read by the job',
  known: 'imported before: choose what it is, above',
  refused: 'refused',
  ignored: 'ignored',
  stopped: 'not imported: stopped',
};
/** What needs a look comes first. */
const ORDER: readonly ImportState[] = [
  'refused',
  'stopped',
  'choosing',
  'known',
  'ignored',
  'reading',
  'sending',
  'waiting',
  'read',
];

/** What became of each file of the last import. */
@Component({
  selector: 'yb-import-report',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, ExtrasChoice],
  template: `
    @if (view() === 'files' && report()) {
      <section aria-label="Import" data-testid="import-report">
        <header>
          <b role="status">{{ summary() }}</b>
          @if (report()?.job; as job) {
            <a class="quiet-button" [routerLink]="['/jobs', job]" (click)="reports.dismiss()">Open its job</a>
          }
          <button type="button" class="quiet-button" (click)="reports.fold()">Fold</button>
          <button type="button" class="quiet-button" (click)="reports.dismiss()">Dismiss</button>
        </header>
        @if (handed()) {
          <p>The job reads {{ handed() }}, whether this page stays open or not.</p>
        }
        <ul>
          @for (entry of entries(); track entry) {
            <li
              [class.bad]="entry.state === 'refused' || entry.state === 'stopped'"
              [attr.data-state]="entry.state"
            >
              @if (entry.piece !== null) {
                <a [routerLink]="['/pieces', entry.piece]" (click)="reports.fold()">{{ entry.name }}</a>
              } @else if (!entry.why.startsWith(entry.name)) {
                <span>{{ entry.name }}</span>
              }
              <span class="faded" [attr.role]="entry.state === 'refused' ? 'alert' : null">{{
                entry.why || states[entry.state]
              }}</span>
              @if (entry.state === 'choosing') {
                <yb-extras-choice [extras]="entry.extras" (chosen)="reports.answer(entry, $event)" />
              }
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    section {
      position: fixed;
      z-index: 45;
      left: 162px;
      bottom: 38px;
      width: 560px;
      max-width: calc(100vw - 200px);
      display: flex;
      flex-direction: column;
      max-height: 42vh;
      background: var(--card);
      border: 1px solid var(--ink);
      border-radius: var(--corner);
    }
    header {
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 6px 10px 6px 12px;
      border-bottom: 1px solid var(--rule);
    }
    header b {
      flex: 1;
    }
    p {
      padding: 6px 12px;
    }
    ul {
      overflow-y: auto;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 0 10px;
      padding: 3px 12px;
      border-left: 4px solid transparent;
      overflow-wrap: anywhere;
    }
    .bad {
      border-left-color: var(--vermilion);
    }
  `,
})
export class ImportReportPanel {
  protected readonly reports = inject(ImportReports);
  protected readonly view = toSignal(this.reports.view$, { requireSync: true });
  protected readonly report = toSignal(this.reports.report$, { requireSync: true });
  protected readonly states = STATES;
  protected readonly entries = computed((): ImportEntry[] =>
    (this.report()?.entries ?? [])
      .filter(({ state }) => state !== 'handed-over')
      .sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state)),
  );
  protected readonly handed = computed(() => {
    const count = this.report()?.entries.filter(({ state }) => state === 'handed-over').length;
    return count ? counted(count, 'file') : '';
  });
  protected readonly summary = computed(() => importSummary(this.report()!));
}
