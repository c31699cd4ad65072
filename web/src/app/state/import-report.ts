import { Injectable } from '@angular/core';
import { counted, type Extra } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';

export type ImportState =
  | 'waiting'
  | 'reading'
  | 'choosing'
  | 'read'
  | 'known'
  | 'sending'
  | 'handed-over'
  | 'refused'
  | 'ignored'
  | 'stopped';

/** What became of one file. */
export interface ImportEntry {
  name: string;
  state: ImportState;
  /** why it was refused or ignored; empty otherwise */
  why: string;
  /** the piece that came of it */
  piece: number | null;
  /** what can be left out of it, while that is asked */
  extras: readonly Extra[];
}

/** What became of the files of one import, file by file. */
export interface ImportReport {
  entries: readonly ImportEntry[];
  running: boolean;
  /** the job that reads what was handed over; null where the page reads all */
  job: number | null;
}

/** How much of a report is to be seen: its line in the header, or every file. */
export type ReportView = 'none' | 'line' | 'files';

/** "39 of 42 files imported, 2 refused, 1 ignored" */
export function importSummary({ entries, running }: ImportReport): string {
  const count = (state: ImportState) => entries.filter((entry) => entry.state === state).length;
  const others = (['refused', 'stopped', 'ignored'] as const)
    .filter((state) => count(state))
    .map((state) => `${count(state)} ${state}`);
  const handed = count('handed-over');
  const first = handed
    ? `${handed} of ${counted(entries.length, 'file')} handed to a job`
    : `${count('read')} of ${counted(entries.length, 'file')} imported`;
  const said = [first, ...others].join(', ');
  return running ? `Importing: ${said}` : said;
}

const ASKING = 'yard-brace.choose-extras';

/** The report of the last import: it stays until it is dismissed, and can be opened again. */
@Injectable({ providedIn: 'root' })
export class ImportReports {
  private readonly last$ = new BehaviorSubject<ImportReport | null>(null);
  private readonly seen$ = new BehaviorSubject<ReportView>('none');
  readonly report$ = this.last$.asObservable();
  readonly view$ = this.seen$.asObservable();

  private readonly asks$ = new BehaviorSubject(localStorage.getItem(ASKING) === 'yes');
  /** whether it is asked what of a file is taken, where it holds more than its art */
  readonly asking$ = this.asks$.asObservable();
  private readonly answers = new Map<ImportEntry, (left: ReadonlySet<string>) => void>();

  get asking(): boolean {
    return this.asks$.value;
  }

  ask(asking: boolean): void {
    localStorage.setItem(ASKING, asking ? 'yes' : 'no');
    this.asks$.next(asking);
  }

  /** Ask what of a file is left out. Resolves with the ids of those extras. */
  choice(entry: ImportEntry, extras: readonly Extra[]): Promise<ReadonlySet<string>> {
    this.put(entry, { state: 'choosing', extras });
    this.show();
    return new Promise((resolve) => this.answers.set(entry, resolve));
  }

  answer(entry: ImportEntry, left: ReadonlySet<string>): void {
    this.put(entry, { state: 'reading', extras: [] });
    this.answers.get(entry)?.(left);
    this.answers.delete(entry);
  }

  get report(): ImportReport | null {
    return this.last$.value;
  }

  /** A new import; one that is still under way goes on in the same report. */
  begin(entries: readonly ImportEntry[]): void {
    const before = this.report;
    this.last$.next({
      running: true,
      job: before?.running ? before.job : null,
      entries: before?.running ? [...before.entries, ...entries] : entries,
    });
    this.seen$.next(
      entries.length > 1 || entries.some(({ state }) => state === 'refused') ? 'files' : 'none',
    );
  }

  /** Another word on the file that an entry is of. */
  put(entry: ImportEntry, change: Partial<ImportEntry>): void {
    const { report } = this;
    if (!report) return;
    Object.assign(entry, change);
    this.last$.next({ ...report, entries: [...report.entries] });
    // Among many the line says it; of one alone nothing else would.
    if ((change.state === 'refused' || change.state === 'stopped') && this.seen$.value === 'none')
      this.show();
  }

  /** What a job reads from now on, whether this page stays open or not. */
  handOver(entries: readonly ImportEntry[], job: number): void {
    for (const entry of entries) entry.state = 'handed-over';
    const { report } = this;
    if (report) this.last$.next({ ...report, job });
  }

  end(): void {
    const { report } = this;
    if (report) this.last$.next({ ...report, running: false });
  }

  dismiss(): void {
    this.seen$.next('none');
  }

  /** A line is enough for whoever works on a piece meanwhile. */
  fold(): void {
    if (this.seen$.value === 'files') this.seen$.next('line');
  }

  show(): void {
    if (this.report) this.seen$.next('files');
  }
}

export const importEntry = (name: string, state: ImportState, why = ''): ImportEntry => ({
  name,
  state,
  why,
  piece: null,
  extras: [],
});
