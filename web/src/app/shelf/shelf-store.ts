import { inject, Injectable } from '@angular/core';
import type { Added, PieceSummary, YardWithPieces } from '@yard-brace/contract';
import {
  blobId,
  currentDocument,
  type PieceDocument,
  type ShelfFacts,
  startHistory,
  talliesBeside,
} from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Api } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { Notices } from '../shell/notices';
import { sentenceOf } from '../shell/told';
import { importEntry, ImportReports } from './import-report';
import { NewArtDesk } from './new-art-desk';
import { sortFiles } from './sort-files';

/** Pictures give way to what a person asks for in the moment a piece appears. */
const PICTURE_AFTER_MS = 60;
/** Most mesh files that are brought in at once. */
const MOST_AT_ONCE = 100;

/** The pieces of one yard: shown on the shelf and as the strip beside the bench. */
@Injectable({ providedIn: 'root' })
export class ShelfStore {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly desk = inject(NewArtDesk);
  private readonly reports = inject(ImportReports);
  readonly yard$ = new BehaviorSubject<YardWithPieces | null>(null);
  private picturing = false;

  async load(yardId: number): Promise<void> {
    if (this.yard$.value?.id !== yardId) this.yard$.next(null);
    this.yard$.next(await this.api.yard(yardId));
    void this.takeMissingPictures();
  }

  /**
   * Bring files in, each mesh file as a piece, which appears as soon as it is read. Answers with the new pieces'
   * numbers; the report says what became of every file.
   */
  async bringIn(yardId: number, files: readonly File[], { asNew = false } = {}): Promise<number[]> {
    const { meshes, ignored } = sortFiles(files);
    const passed = ignored.map(({ file, why }) =>
      importEntry(file.name, meshes.length ? 'ignored' : 'refused', why),
    );
    if (meshes.length > MOST_AT_ONCE) {
      const why = `${meshes.length} mesh files are more than the ${MOST_AT_ONCE} that come in at once; import fewer at a time.`;
      this.reports.begin([importEntry('', 'refused', why)]);
      this.reports.end();
      return [];
    }
    const waiting = meshes.map(({ file, beside }) => {
      const known = asNew ? undefined : this.knownAs(yardId, file.name);
      if (known) this.desk.ask({ piece: known.id, name: known.name, file, beside });
      return { file, beside, entry: importEntry(file.name, known ? 'known' : 'waiting') };
    });
    this.reports.begin([...waiting.map(({ entry }) => entry), ...passed]);
    const added: number[] = [];
    let stopped = false;
    for (const { file, beside, entry } of waiting) {
      if (entry.state === 'known') continue;
      if (stopped) {
        this.reports.put(entry, { state: 'stopped' });
        continue;
      }
      this.reports.put(entry, { state: 'reading' });
      try {
        const document = await this.compute.run((worker, progress) => worker.takeIn(file, beside, progress), {
          first: `Reading ${file.name}`,
        });
        const piece = await this.api.addPiece(yardId, startHistory(document));
        added.push(piece.id);
        this.appear(yardId, piece);
        this.reports.put(entry, { state: 'read', piece: piece.id });
      } catch (error) {
        stopped = error instanceof Stopped;
        this.reports.put(
          entry,
          stopped ? { state: 'stopped' } : { state: 'refused', why: sentenceOf(error) },
        );
      }
    }
    this.reports.end();
    if (added.length) await this.load(yardId).catch(() => undefined);
    return added;
  }

  /** The piece that a file of this name came for before. */
  private knownAs(yardId: number, name: string): PieceSummary | undefined {
    const yard = this.yard$.value;
    if (yard?.id !== yardId) return undefined;
    return yard.shelf.find((piece) => piece.cameFrom.toLowerCase() === name.toLowerCase());
  }

  /** A piece that was just added stands on the shelf at once. */
  private appear(yardId: number, { id, name, version, savedAt, facts }: Added): void {
    const yard = this.yard$.value;
    if (yard?.id !== yardId) return;
    const piece: PieceSummary = {
      ...facts,
      ownTally: facts.tally,
      id,
      name,
      version,
      savedAt,
      picture: null,
      broken: null,
    };
    this.yard$.next({ ...yard, pieces: yard.pieces + 1, shelf: [...yard.shelf, piece] });
    this.put({ id, facts });
    void this.takeMissingPictures();
  }

  /** A piece that is several: each comes onto the shelf where it stood; the one that held them goes, or stays. */
  async takeApart({ yardId, id, version, document, remove }: TakeApart): Promise<number> {
    const documents = await this.compute.run((worker, progress) => worker.extract(document, progress), {
      first: 'Taking the pieces apart',
    });
    const added = await this.api.takeApart(id, version, documents.map(startHistory), remove);
    await this.load(yardId);
    return added.length;
  }

  /** What is known of a piece now, from the answer to a save: the shelf is not asked for all of it again. */
  put(change: Partial<PieceSummary> & { id: number; facts: ShelfFacts }): void {
    const yard = this.yard$.value;
    if (!yard?.shelf.some(({ id }) => id === change.id)) return;
    const { facts, ...rest } = change;
    const changed = yard.shelf.map((piece) =>
      piece.id === change.id ? { ...piece, ...facts, ...rest, ownTally: facts.tally } : piece,
    );
    const tallies = talliesBeside(
      changed
        .filter(({ broken }) => broken === null)
        .map((piece) => ({ id: piece.id, facts: { ...piece, tally: piece.ownTally } })),
    );
    this.yard$.next({
      ...yard,
      shelf: changed.map((piece) => ({ ...piece, tally: tallies.get(piece.id) ?? piece.tally })),
    });
  }

  /** Take pieces off the shelf for good. */
  async remove(pieces: readonly PieceSummary[]): Promise<void> {
    await this.each(pieces, ({ id }) => this.api.removePiece(id));
  }

  /** Deliver pieces one after the other; each says how it went. */
  async deliver(pieces: readonly PieceSummary[]): Promise<void> {
    const target = this.yard$.value!.rules.target;
    const delivered: { name: string; agreed: boolean }[] = [];
    await this.each(pieces, async ({ id, name, version }) => {
      delivered.push({ name, agreed: (await this.api.deliver(id, version, target)).agreed });
    });
    if (delivered.length)
      this.notices.say(deliveredText(delivered), !delivered.every(({ agreed }) => agreed));
  }

  /** One that fails is said and does not stop the others. */
  private async each(
    pieces: readonly PieceSummary[],
    act: (piece: PieceSummary) => Promise<void>,
  ): Promise<void> {
    for (const piece of pieces) {
      await act(piece).catch((error) => this.notices.say(`${piece.name}: ${sentenceOf(error)}`, true));
    }
    await this.load(this.yard$.value!.id).catch((error) => this.notices.error(error));
  }

  /** Pictures of pieces that have none yet, one after the other, stored with the piece. */
  private async takeMissingPictures(): Promise<void> {
    if (this.picturing) return;
    this.picturing = true;
    const failed = new Set<number>();
    try {
      for (let piece = this.nextWithout(failed); piece; piece = this.nextWithout(failed)) {
        await this.takePictureOf(piece).catch(() => failed.add(piece!.id));
      }
    } finally {
      this.picturing = false;
    }
  }

  private nextWithout(failed: ReadonlySet<number>): PieceSummary | undefined {
    return this.yard$.value?.shelf.find(
      (piece) => piece.picture === null && piece.broken === null && !failed.has(piece.id),
    );
  }

  private async takePictureOf({ id }: PieceSummary): Promise<void> {
    // Whoever turns to the piece meanwhile sees it drawn first.
    await new Promise((resolve) => setTimeout(resolve, PICTURE_AFTER_MS));
    await this.compute.idle();
    const document = currentDocument((await this.api.piece(id)).history);
    const bytes = await this.compute.run((worker, progress) => worker.picture(document, progress), {
      first: `Drawing ${document.name}`,
      quick: true,
    });
    const picture = blobId(bytes);
    await this.api.setPicture(id, picture, bytes);
    const yard = this.yard$.value;
    if (yard)
      this.yard$.next({
        ...yard,
        shelf: yard.shelf.map((other) => (other.id === id ? { ...other, picture } : other)),
      });
  }
}

/** What deliveries came to, in a sentence or two. */
export function deliveredText(delivered: readonly { name: string; agreed: boolean }[]): string {
  const off = delivered.filter(({ agreed }) => !agreed).map(({ name }) => name);
  const [first] = delivered;
  const what = delivered.length === 1 ? `${first!.name} was` : `${delivered.length} pieces were`;
  if (off.length === 0) return `${what} delivered and read back as drawn.`;
  if (delivered.length === 1)
    return `${what} delivered and read back differently: its delivery step says where.`;
  return `${what} delivered; ${off.length} read back differently, as their delivery steps say: ${off.join(', ')}.`;
}

export interface TakeApart {
  yardId: number;
  id: number;
  version: number;
  document: PieceDocument;
  /** whether the piece that held them goes */
  remove: boolean;
}
