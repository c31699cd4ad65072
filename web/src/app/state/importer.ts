import { inject, Injectable } from '@angular/core';
import { MAX_IMPORT_FILES, MAX_MESH_FILES } from '@yard-brace/contract';
import {
  countText,
  type Extra,
  extrasOf,
  namedByRules,
  type PieceDocument,
  sortFiles,
  startHistory,
} from '@yard-brace/core';
import { Api } from '../api/api';
import { sentenceOf } from '../api/told';
import { Compute, Stopped } from '../workers/compute';
import { claimedFiles } from './claimed-files';
import { pathOf, placed } from './dropped-files';
import { type ImportEntry, importEntry, ImportReports } from './import-report';
import { JobsStore } from './jobs-store';
import { NewArtDesk } from './new-art-desk';
import { ShelfStore } from './shelf-store';

/** So many mesh files are read by the page itself; more than that are a job of the server, which needs no open page. */
export const READ_BY_PAGE = 100;

/** A file to be read, with what may be named in it and what is reported of it. */
interface Waiting {
  file: File;
  beside: File[];
  entry: ImportEntry;
}

/** Files into pieces: each mesh file a piece, which appears as soon as it is read. */
@Injectable({ providedIn: 'root' })
export class Importer {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly shelf = inject(ShelfStore);
  private readonly desk = inject(NewArtDesk);
  private readonly reports = inject(ImportReports);
  private readonly jobs = inject(JobsStore);

  /**
   * Import files into a yard. Answers with the new pieces' numbers, but for those that a job reads; the report says what
   * became of every file.
   *
   * @param asNew a file that bears the name of one that came before is a piece of its own
   */
  async import(yardId: number, files: readonly File[], { asNew = false } = {}): Promise<number[]> {
    const { wholes, refused, others } = await claimedFiles(files);
    const { meshes: models, ignored } = sortFiles(others.map(placed));
    const meshes = [
      ...wholes,
      ...models.map(({ file, beside }) => ({ file: file.file, beside: beside.map((each) => each.file) })),
    ];
    const passed = [
      ...refused.map(({ file, why }) => importEntry(file.name, 'refused', why)),
      ...ignored.map(({ file, why }) => importEntry(file.name, meshes.length ? 'ignored' : 'refused', why)),
    ];
    const why = tooMany(meshes.length, files.length);
    if (why) {
      this.reports.begin([importEntry('', 'refused', why)]);
      this.reports.end();
      return [];
    }
    // Whether a file came before is only known of a shelf that is all there.
    if (!asNew) await this.shelf.whole();
    const waiting = meshes.map(({ file, beside }) => {
      const pieces = asNew ? [] : this.shelf.knownAs(yardId, file.name).map(({ id, name }) => ({ id, name }));
      if (pieces.length) this.desk.ask({ pieces, file, beside });
      return { file, beside, entry: importEntry(file.name, pieces.length ? 'known' : 'waiting') };
    });
    this.reports.begin([...waiting.map(({ entry }) => entry), ...passed]);
    const unknown = waiting.filter(({ entry }) => entry.state !== 'known');
    const added =
      unknown.length > READ_BY_PAGE && !this.reports.asking
        ? await this.handOver(yardId, unknown)
        : await this.readAll(yardId, unknown);
    this.reports.end();
    if (added.length) await this.shelf.load(yardId).catch(() => undefined);
    return added;
  }

  /** Sends all files as they are: a job reads them. */
  private async handOver(yardId: number, waiting: readonly Waiting[]): Promise<never[]> {
    for (const { entry } of waiting) entry.state = 'sending';
    const files = [...new Set(waiting.flatMap(({ file, beside }) => [file, ...beside]))];
    try {
      const sent = await this.compute.run((jobs, progress) => jobs.storeFiles(files, progress), {
        first: `Sending ${countText(files.length)} files`,
      });
      const stored = new Map(files.map((file, i) => [file, sent[i]!]));
      const kept = files.filter((file) => 'blob' in stored.get(file)!);
      const entries = waiting.filter(({ file, entry }) => {
        const answer = stored.get(file)!;
        if ('why' in answer) this.reports.put(entry, { state: 'refused', why: answer.why });
        return 'blob' in answer;
      });
      if (!entries.length) return [];
      const places = new Map(kept.map((file, i) => [file, i]));
      const job = await this.jobs.beginImport(yardId, {
        files: kept.map((file) => ({
          name: file.name,
          path: pathOf(file),
          ...(stored.get(file) as { blob: string }),
        })),
        meshes: entries.map(({ file }) => places.get(file)!),
      });
      this.reports.handOver(
        entries.map(({ entry }) => entry),
        job,
      );
    } catch (error) {
      const change: Partial<ImportEntry> =
        error instanceof Stopped ? { state: 'stopped' } : { state: 'refused', why: sentenceOf(error) };
      // What was refused by itself keeps its own reason.
      for (const { entry } of waiting) if (entry.state === 'sending') this.reports.put(entry, change);
    }
    return [];
  }

  /** One after the other, in this page. */
  private async readAll(yardId: number, waiting: readonly Waiting[]): Promise<number[]> {
    const added: number[] = [];
    const asked: Promise<void>[] = [];
    let stopped = false;
    for (const { file, beside, entry } of waiting) {
      if (stopped) {
        this.reports.put(entry, { state: 'stopped' });
        continue;
      }
      this.reports.put(entry, { state: 'reading' });
      await this.guarded(entry, async () => {
        const read = await this.compute.run((jobs, progress) => jobs.importFile(file, beside, progress), {
          first: `Reading ${file.name}`,
        });
        const extras = this.reports.asking ? extrasOf(read) : [];
        if (extras.length === 0) added.push(await this.put(yardId, entry, read));
        // Whoever thinks about one file does not keep the others waiting.
        else
          asked.push(
            this.guarded(entry, async () => {
              const document = await this.chosenOf(entry, read, extras);
              added.push(await this.put(yardId, entry, document));
            }),
          );
      });
      stopped = entry.state === 'stopped';
    }
    await Promise.all(asked);
    return added;
  }

  /** The document without what is left out, once that was said. */
  private async chosenOf(
    entry: ImportEntry,
    read: PieceDocument,
    extras: readonly Extra[],
  ): Promise<PieceDocument> {
    const left = await this.reports.choice(entry, extras);
    if (left.size === 0) return read;
    return this.compute.run((jobs, progress) => jobs.withoutExtras(read, left, progress), {
      first: `Leaving out extras of ${entry.name}`,
    });
  }

  /** A new piece on the shelf. */
  private async put(yardId: number, entry: ImportEntry, read: PieceDocument): Promise<number> {
    const { yard } = this.shelf;
    const document = yard?.id === yardId ? namedByRules(read, yard.rules) : read;
    const piece = await this.api.addPiece(yardId, startHistory(document));
    this.shelf.appear(yardId, piece);
    this.reports.put(entry, { state: 'read', piece: piece.id });
    return piece.id;
  }

  /** What goes wrong with one file is said of it, and the others go on. */
  private async guarded(entry: ImportEntry, work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      this.reports.put(
        entry,
        error instanceof Stopped ? { state: 'stopped' } : { state: 'refused', why: sentenceOf(error) },
      );
    }
  }
}

/** Why so many files are not one import; empty where they are. */
function tooMany(meshes: number, files: number): string {
  const [count, what, most] =
    meshes > MAX_MESH_FILES ? [meshes, 'mesh files', MAX_MESH_FILES] : [files, 'files', MAX_IMPORT_FILES];
  if (count <= most) return '';
  return `${countText(count)} ${what} are more than the ${countText(most)} of one import; import fewer at a time.`;
}
