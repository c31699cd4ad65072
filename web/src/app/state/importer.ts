import { inject, Injectable } from '@angular/core';
import { type Extra, extrasOf, namedByRules, type PieceDocument, startHistory } from '@yard-brace/core';
import { Api } from '../api/api';
import { sentenceOf } from '../api/told';
import { Compute, Stopped } from '../workers/compute';
import { claimedFiles } from './claimed-files';
import { type ImportEntry, importEntry, ImportReports } from './import-report';
import { NewArtDesk } from './new-art-desk';
import { ShelfStore } from './shelf-store';
import { sortFiles } from './sort-files';

/** Most mesh files of one import. */
export const MAX_MESH_FILES = 1000;

/** Files into pieces: each mesh file a piece, which appears as soon as it is read. */
@Injectable({ providedIn: 'root' })
export class Importer {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly shelf = inject(ShelfStore);
  private readonly desk = inject(NewArtDesk);
  private readonly reports = inject(ImportReports);

  /**
   * Import files into a yard. Answers with the new pieces' numbers; the report says what became of every file.
   *
   * @param asNew a file that bears the name of one that came before is a piece of its own
   */
  async import(yardId: number, files: readonly File[], { asNew = false } = {}): Promise<number[]> {
    const { wholes, refused, others } = await claimedFiles(files);
    const { meshes: models, ignored } = sortFiles(others);
    const meshes = [...wholes, ...models];
    const passed = [
      ...refused.map(({ file, why }) => importEntry(file.name, 'refused', why)),
      ...ignored.map(({ file, why }) => importEntry(file.name, meshes.length ? 'ignored' : 'refused', why)),
    ];
    if (meshes.length > MAX_MESH_FILES) {
      const why = `${meshes.length} mesh files are more than the ${MAX_MESH_FILES} of one import; import fewer at a time.`;
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
    const added: number[] = [];
    const asked: Promise<void>[] = [];
    let stopped = false;
    for (const { file, beside, entry } of waiting) {
      if (entry.state === 'known') continue;
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
    this.reports.end();
    if (added.length) await this.shelf.load(yardId).catch(() => undefined);
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
