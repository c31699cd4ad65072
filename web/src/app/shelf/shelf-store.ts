import { inject, Injectable } from '@angular/core';
import type { PieceSummary, YardWithPieces } from '@yard-brace/contract';
import { blobId, currentDocument, type PieceDocument, startHistory } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Api } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { Notices } from '../shell/notices';
import { sentenceOf } from '../shell/told';
import { NewArtDesk } from './new-art-desk';
import { sortFiles } from './sort-files';

/** Most mesh files that are brought in at once. */
const MOST_AT_ONCE = 100;

/** The pieces of one yard: shown on the shelf and as the strip beside the bench. */
@Injectable({ providedIn: 'root' })
export class ShelfStore {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly desk = inject(NewArtDesk);
  readonly yard$ = new BehaviorSubject<YardWithPieces | null>(null);
  private picturing = false;

  async load(yardId: number): Promise<void> {
    if (this.yard$.value?.id !== yardId) this.yard$.next(null);
    this.yard$.next(await this.api.yard(yardId));
    void this.takeMissingPictures();
  }

  /** Bring files in, each mesh file as a piece. Answers with the new pieces' numbers; a file that fails is said and stores nothing. */
  async bringIn(yardId: number, files: readonly File[], { asNew = false } = {}): Promise<number[]> {
    const { meshes: found, stray } = sortFiles(files);
    const before = (name: string) =>
      asNew
        ? undefined
        : this.yard$.value?.shelf.find((piece) => piece.cameFrom.toLowerCase() === name.toLowerCase());
    const meshes = found.filter(({ file, beside }) => {
      const piece = this.yard$.value?.id === yardId ? before(file.name) : undefined;
      if (piece) this.desk.ask({ piece: piece.id, name: piece.name, file, beside });
      return !piece;
    });
    if (found.length > 0 && meshes.length === 0) return [];
    if (meshes.length > MOST_AT_ONCE) {
      this.notices.say(
        `${meshes.length} mesh files are more than the ${MOST_AT_ONCE} that come in at once; bring in fewer at a time.`,
        true,
      );
      return [];
    }
    if (meshes.length === 0) {
      this.notices.say(
        `${stray[0] ?? 'Nothing'}: no mesh among the files; drop an OBJ, GLB, glTF, COLLADA, STL or PLY, with its material library and pictures beside it.`,
        true,
      );
      return [];
    }
    const added: number[] = [];
    for (const { file, beside } of meshes) {
      try {
        const document = await this.compute.run((worker, progress) => worker.takeIn(file, beside, progress), {
          first: `Reading ${file.name}`,
        });
        added.push((await this.api.addPiece(yardId, startHistory(document))).id);
      } catch (error) {
        if (error instanceof Stopped) this.notices.say(`${file.name} was not brought in: stopped.`);
        else this.notices.error(error);
      }
    }
    if (stray.length)
      this.notices.say(`Left aside: ${stray.slice(0, 5).join(', ')}${stray.length > 5 ? ' …' : ''}.`);
    if (added.length) await this.load(yardId);
    return added;
  }

  /** A piece that is several: each comes onto the shelf where it stood, and the one that held them goes. */
  async takeApart(yardId: number, id: number, document: PieceDocument): Promise<number[]> {
    const documents = await this.compute.run((worker, progress) => worker.extract(document, progress), {
      first: 'Taking the pieces apart',
    });
    const added: number[] = [];
    for (const each of documents) added.push((await this.api.addPiece(yardId, startHistory(each))).id);
    await this.api.removePiece(id);
    await this.load(yardId);
    return added;
  }

  /** Take pieces off the shelf for good. */
  async remove(pieces: readonly PieceSummary[]): Promise<void> {
    await this.each(pieces, ({ id }) => this.api.removePiece(id));
  }

  /** Deliver pieces one after the other; each says how it went. */
  async deliver(pieces: readonly PieceSummary[]): Promise<void> {
    const target = this.yard$.value!.rules.target;
    await this.each(pieces, async ({ id, name, version }) => {
      const { agreed } = await this.api.deliver(id, version, target);
      const verdict = agreed ? 'read back as drawn' : 'read back differently: its delivery step says where';
      this.notices.say(`${name} was delivered and ${verdict}.`, !agreed);
    });
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
    return this.yard$.value?.shelf.find((piece) => piece.picture === null && !failed.has(piece.id));
  }

  private async takePictureOf({ id }: PieceSummary): Promise<void> {
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
