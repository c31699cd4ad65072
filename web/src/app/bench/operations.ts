import { inject, Injectable } from '@angular/core';
import {
  applyEdit,
  artKey,
  type FaultKind,
  type MeasuredAnchor,
  type Operation,
  type Vec3,
} from '@yard-brace/core';
import { Compute, Stopped } from '../compute/compute';
import type { UvReport } from '../compute/messages';
import { Notices } from '../shell/notices';
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
      .run((worker, progress) => worker.count(document, operation, progress), 'Counting')
      .then(
        (says) => says,
        (error) => (error instanceof Stopped ? null : String(error.message ?? error)),
      );
  }

  /** Light where a fault is; the last one asked for wins. */
  async lightFault(kind: FaultKind | null): Promise<void> {
    const asked = ++this.facesAsked;
    if (!kind) {
      this.view.showPlaces(null);
      return;
    }
    const { document } = this.store;
    const places = await this.compute
      .run((worker, progress) => worker.faults(document, kind, progress), 'Looking for the place')
      .catch(() => null);
    if (asked === this.facesAsked && artKey(document) === artKey(this.store.document))
      this.view.showPlaces(places);
  }

  /** The border or sharp edge that runs on from a face's nearest side. */
  async chooseRun(face: number, at: Vec3, how: MarkedOut['how']): Promise<void> {
    const { document } = this.store;
    const run = await this.asked((worker, progress) => worker.edgeRun(document, face, at, progress));
    if (run) {
      this.view.choose(run.faces, how);
      this.lastRun = run.sides;
    }
  }

  /** sides of the last run of edges, for making them hard or smooth */
  lastRun: { part: string; sides: Uint32Array<ArrayBuffer> }[] = [];

  /** Faces marked out on the screen; without "through" only those that are seen. */
  async chooseMarked({ faces, how, sight }: MarkedOut): Promise<void> {
    const { document } = this.store;
    const seen = this.view.settings.through
      ? faces
      : await this.asked((worker, progress) =>
          worker.visible(document, faces, sight.eye, sight.direction, progress),
        );
    if (seen) this.view.choose(seen, how);
  }

  async measuredPivot(anchor: MeasuredAnchor, part: string | null): Promise<Vec3 | null> {
    const { document } = this.store;
    return this.asked((worker, progress) => worker.measuredPivot(document, anchor, part, progress));
  }

  async uvs(): Promise<UvReport[]> {
    const { document } = this.store;
    return (await this.asked((worker, progress) => worker.uvs(document, progress))) ?? [];
  }

  private async workOut(operation: Operation) {
    const { document } = this.store;
    const done = await this.asked((worker, progress) => worker.operate(document, operation, progress));
    // Something else was changed meanwhile: what was worked out no longer fits.
    if (done && artKey(document) !== artKey(this.store.document)) return null;
    return done && { ...done, document: applyEdit(document, done.edit) };
  }

  private async asked<T>(work: Parameters<typeof this.compute.run<T>>[0]): Promise<T | null> {
    try {
      return await this.compute.run(work);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
      return null;
    }
  }
}
