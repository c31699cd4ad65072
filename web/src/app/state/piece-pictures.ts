import { inject, Injectable } from '@angular/core';
import type { PieceSummary } from '@yard-brace/contract';
import { blobId, currentDocument } from '@yard-brace/core';
import { Api } from '../api/api';
import { Compute } from '../workers/compute';
import { Clock } from './clock';
import { ShelfStore } from './shelf-store';

/** Pictures give way to what a person asks for in the moment a piece appears. */
export const PICTURE_AFTER_MS = 60;

/** Takes pictures of pieces that have none yet, one after the other, while nothing else is worked on. */
@Injectable({ providedIn: 'root' })
export class PiecePictures {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly shelf = inject(ShelfStore);
  private readonly clock = inject(Clock);
  private taking = false;

  constructor() {
    this.shelf.yard$.subscribe(() => void this.takeMissing());
  }

  private async takeMissing(): Promise<void> {
    if (this.taking) return;
    this.taking = true;
    const failed = new Set<number>();
    try {
      for (let piece = this.nextWithout(failed); piece; piece = this.nextWithout(failed)) {
        const { id } = piece;
        await this.take(id).catch(() => failed.add(id));
      }
    } finally {
      this.taking = false;
    }
  }

  private nextWithout(failed: ReadonlySet<number>): PieceSummary | undefined {
    return this.shelf.yard?.shelf.find(
      ({ id, picture, broken }) => picture === null && broken === null && !failed.has(id),
    );
  }

  private async take(id: number): Promise<void> {
    // Whoever turns to the piece meanwhile sees it drawn first.
    await new Promise<void>((resolve) => this.clock.after(PICTURE_AFTER_MS, resolve));
    await this.compute.idle();
    const document = currentDocument((await this.api.piece(id)).history);
    const bytes = await this.compute.run((jobs, progress) => jobs.picture(document, progress), {
      first: `Drawing ${document.name}`,
      aside: true,
    });
    const picture = blobId(bytes);
    await this.api.setPicture(id, picture, bytes);
    this.shelf.setPicture(id, picture);
  }
}
