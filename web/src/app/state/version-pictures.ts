import { inject, Injectable, type OnDestroy } from '@angular/core';
import { currentDocument } from '@yard-brace/core';
import { Api } from '../api/api';
import { Compute } from '../workers/compute';

/** Pictures that are kept at most; the eldest go. */
const MAX_PICTURES = 2000;

/** Pictures of pieces as they were at a version, with their shapes: drawn when they are looked at, one after the other. */
@Injectable()
export class VersionPictures implements OnDestroy {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly pictures = new Map<string, Promise<string | null>>();
  private drawing: Promise<unknown> = Promise.resolve();
  private closed = false;

  ngOnDestroy(): void {
    this.closed = true;
    for (const picture of this.pictures.values()) void letGo(picture);
  }

  /** Its address; null where that version is not kept any more. */
  of(piece: number, version: number): Promise<string | null> {
    const key = `${piece} ${version}`;
    const known = this.pictures.get(key);
    if (known) return known;
    const picture = this.drawing.then(() => this.draw(piece, version)).catch(() => null);
    this.drawing = picture;
    this.pictures.set(key, picture);
    const [eldest] = this.pictures;
    if (this.pictures.size > MAX_PICTURES && eldest) {
      this.pictures.delete(eldest[0]);
      void letGo(eldest[1]);
    }
    return picture;
  }

  /** Once nothing that was asked for is still to be drawn. */
  async allDrawn(): Promise<void> {
    for (let last: unknown = null; last !== this.drawing;) {
      last = this.drawing;
      await last;
    }
  }

  private async draw(piece: number, version: number): Promise<string | null> {
    if (this.closed) return null;
    const document = currentDocument(await this.api.pieceAt(piece, version));
    const bytes = await this.compute.run((jobs, progress) => jobs.picture(document, progress, true), {
      first: `Drawing ${document.name}`,
      aside: true,
      silent: true,
    });
    return URL.createObjectURL(new Blob([bytes], { type: 'image/png' }));
  }
}

const letGo = async (picture: Promise<string | null>): Promise<void> => {
  const address = await picture;
  if (address) URL.revokeObjectURL(address);
};
