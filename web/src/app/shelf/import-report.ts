import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';

export type ImportState = 'waiting' | 'reading' | 'read' | 'known' | 'refused' | 'ignored' | 'stopped';

/** What became of one file. */
export interface ImportEntry {
  name: string;
  state: ImportState;
  /** why it was refused or ignored; empty otherwise */
  why: string;
  /** the piece that came of it */
  piece: number | null;
}

/** What became of the files of one import, file by file. */
export interface ImportReport {
  entries: readonly ImportEntry[];
  running: boolean;
}

/** The report of the last import: it stays until it is dismissed, and can be opened again. */
@Injectable({ providedIn: 'root' })
export class ImportReports {
  readonly report$ = new BehaviorSubject<ImportReport | null>(null);
  readonly open$ = new BehaviorSubject(false);

  /** A new import; one that is still under way goes on in the same report. */
  begin(entries: readonly ImportEntry[]): void {
    const before = this.report$.value;
    this.report$.next({
      running: true,
      entries: before?.running ? [...before.entries, ...entries] : entries,
    });
    this.open$.next(entries.length > 1 || entries.some(({ state }) => state === 'refused'));
  }

  /** Another word on the file that an entry is of. */
  put(entry: ImportEntry, change: Partial<ImportEntry>): void {
    const report = this.report$.value;
    if (!report) return;
    Object.assign(entry, change);
    this.report$.next({ ...report, entries: [...report.entries] });
    if (change.state === 'refused' || change.state === 'stopped') this.open$.next(true);
  }

  end(): void {
    const report = this.report$.value;
    if (report) this.report$.next({ ...report, running: false });
  }

  dismiss(): void {
    this.open$.next(false);
  }

  show(): void {
    if (this.report$.value) this.open$.next(true);
  }
}

export const importEntry = (name: string, state: ImportState, why = ''): ImportEntry => ({
  name,
  state,
  why,
  piece: null,
});
