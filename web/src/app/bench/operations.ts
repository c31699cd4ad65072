import { inject, Injectable } from '@angular/core';
import {
  artKey,
  type FaultKind,
  type MeasuredAnchor,
  type Operation,
  type PieceDocument,
  type Vec3,
  type WallProbe,
} from '@yard-brace/core';
import { Compute, Stopped } from '../compute/compute';
import type { UvReport } from '../compute/messages';
import { Notices } from '../shell/notices';
import { sentenceOf } from '../shell/told';
import { type MarkedOut } from '../view/piece-view';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';

/** Operations on the piece on the bench: worked out in the worker, then proposed or made. */
@Injectable()
export class Operations {
  private readonly store = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly view = inject(ViewState);
  private facesAsked = 0;

  /** Work an operation out and show it; the person keeps or leaves it. */
  async propose(operation: Operation): Promise<void> {
    const done = await this.workOut(operation);
    if (done) this.store.proposeChange(done.says, done.edit);
  }

  /** Work an operation out and make it at once: for what moves nothing. It can be undone. */
  async make(operation: Operation): Promise<boolean> {
    const done = await this.workOut(operation);
    if (!done) return false;
    this.store.apply(done.edit);
    this.notices.say(done.says);
    return true;
  }

  /** What an operation would say, without showing it; null when it cannot be done. */
  async count(operation: Operation): Promise<string | null> {
    const { document } = this.store;
    return this.compute
      .run((worker, progress) => worker.count(document, operation, progress), {
        first: 'Counting',
        quick: true,
      })
      .then(
        (says) => says,
        (error) => (error instanceof Stopped ? null : sentenceOf(error)),
      );
  }

  /** Light where a fault is; the last one asked for wins. */
  async lightFault(kind: FaultKind | null): Promise<void> {
    const asked = ++this.facesAsked;
    if (!kind) {
      this.view.showPlaces(null);
      return;
    }
    const document = this.drawn;
    const places = await this.compute
      .run((worker, progress) => worker.faults(document, kind, progress), {
        first: 'Looking for the place',
        quick: true,
      })
      .catch(() => null);
    if (asked === this.facesAsked && document === this.drawn) this.view.showPlaces(places);
  }

  /** The border or sharp edge that runs on from a face's nearest side. */
  async chooseRun(face: number, at: Vec3, how: MarkedOut['how']): Promise<void> {
    const document = this.drawn;
    const run = await this.asked((worker, progress) => worker.edgeRun(document, face, at, progress));
    if (run && document === this.drawn) {
      this.view.choose(run.faces, how);
      this.run = { on: document, sides: run.sides };
    }
  }

  /** sides of the last run of edges, for making them hard or smooth */
  get lastRun(): readonly SidesOfPart[] {
    return this.run?.on === this.drawn ? this.run.sides : [];
  }
  private run: { on: PieceDocument; sides: readonly SidesOfPart[] } | null = null;

  /** Faces marked out on the screen; without "through" only those that are seen. */
  async chooseMarked({ faces, how, sight }: MarkedOut): Promise<void> {
    const document = this.drawn;
    const seen = this.view.settings.through
      ? faces
      : await this.asked((worker, progress) =>
          worker.visible(document, faces, sight.eye, sight.direction, progress),
        );
    if (seen && document === this.drawn) this.view.choose(seen, how);
  }

  async measuredPivot(anchor: MeasuredAnchor, part: string | null): Promise<Vec3 | null> {
    const { document } = this.store;
    return this.asked((worker, progress) => worker.measuredPivot(document, anchor, part, progress));
  }

  /** How thick the wall is at some places, at most; 0 where it has no back, null when it could not be measured. */
  async wallMetres(probes: readonly WallProbe[]): Promise<number | null> {
    const { document } = this.store;
    return this.asked((worker, progress) => worker.wallMetres(document, probes, progress));
  }

  async uvs(): Promise<UvReport[]> {
    const { document } = this.store;
    return (await this.asked((worker, progress) => worker.uvs(document, progress))) ?? [];
  }

  private async workOut(operation: Operation) {
    const { document } = this.store;
    if (namesFaces(operation) && !this.drawnAsItIs()) return null;
    const done = await this.asked((worker, progress) => worker.operate(document, operation, progress), false);
    if (!done || document === this.store.document) return done;
    // The result carries the whole tree, names and pivots too: it would undo what was changed meanwhile.
    this.notices.say('The piece was changed while this was worked out, so nothing came of it; do it again.');
    return null;
  }

  /** Faces are chosen on what is drawn: with a change on show they are not the piece's own. Says so. */
  drawnAsItIs(): boolean {
    const drawn = this.drawn;
    if (artKey(drawn) === artKey(this.store.document)) return true;
    this.notices.say('These faces were chosen on a change that is only proposed; keep or leave it first.');
    return false;
  }

  /** What the view shows: the piece, or a change that is proposed. */
  private get drawn(): PieceDocument {
    return this.view.art?.document ?? this.store.document;
  }

  private async asked<T>(work: Parameters<typeof this.compute.run<T>>[0], quick = true): Promise<T | null> {
    try {
      return await this.compute.run(work, { quick });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
      return null;
    }
  }
}

type SidesOfPart = { part: string; sides: Uint32Array<ArrayBuffer> };

/** Whether an operation speaks of single faces or sides, which are numbered as they are drawn. */
const namesFaces = (operation: Operation): boolean =>
  ('faces' in operation && !!operation.faces?.length) || ('sides' in operation && !!operation.sides);
