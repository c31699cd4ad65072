import { inject, Injectable } from '@angular/core';
import {
  artKey,
  type FaultKind,
  type MeasuredAnchor,
  type Operation,
  type Outcome,
  outcomeText,
  type PieceDocument,
  type UvReport,
  type Vec3,
  type WallProbe,
} from '@yard-brace/core';
import type { Remote } from 'comlink';
import { sentenceOf } from '../api/told';
import { Compute, Stopped } from '../workers/compute';
import type { Jobs } from '../workers/compute.worker';
import type { Operated, Progress } from '../workers/messages';
import { ArtStore } from './art-store';
import { BenchStore } from './bench-store';
import { artFigures } from './change-figures';
import { Notices } from './notices';
import { Proposals } from './proposals';
import { ViewMarks } from './view-marks';
import { applyEdit } from '@yard-brace/core';

/** What an operation would come to, or why it cannot be done. */
export type Tried = { outcome: Outcome } | { refused: string } | null;

/** Operations on the piece on the bench: worked out in a worker, then proposed or made. */
@Injectable()
export class Operations {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly art = inject(ArtStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly marks = inject(ViewMarks);
  private faultsAsked = 0;

  /** Work an operation out and show it; the person keeps or discards it. */
  async propose(operation: Operation): Promise<void> {
    const done = await this.workOut(operation);
    if (!done) return;
    const { document } = this.bench;
    this.proposals.propose({
      source: 'operation',
      title: outcomeText(done.outcome),
      edit: done.edit,
      figures: artFigures(document, applyEdit(document, done.edit)),
    });
  }

  /** Work an operation out and make it at once: for what moves nothing. It can be undone. */
  async make(operation: Operation): Promise<boolean> {
    const done = await this.workOut(operation);
    if (!done) return false;
    this.bench.apply(done.edit);
    this.notices.say(outcomeText(done.outcome));
    return true;
  }

  /** What an operation would come to, without showing it; null when it was stopped. */
  async try(operation: Operation): Promise<Tried> {
    const { document } = this.bench;
    const work = (jobs: Remote<Jobs>, progress: Progress) =>
      jobs.tryOperation(document, operation, progress) as Promise<Outcome>;
    try {
      return { outcome: await this.compute.run(work, { first: 'Counting', quick: true }) };
    } catch (error) {
      return error instanceof Stopped ? null : { refused: sentenceOf(error) };
    }
  }

  /** Light where a fault is; the last one asked for wins. */
  async lightFault(kind: FaultKind | null): Promise<void> {
    const asked = ++this.faultsAsked;
    if (!kind) {
      this.marks.showFaults(null);
      return;
    }
    const { document } = this.art;
    const places = await this.compute
      .run((jobs, progress) => jobs.faults(document, kind, progress), {
        first: 'Finding the faces',
        quick: true,
      })
      .catch(() => null);
    if (asked === this.faultsAsked && document === this.art.document) this.marks.showFaults(places);
  }

  measuredPivot(anchor: MeasuredAnchor, part: string | null): Promise<Vec3 | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.measuredPivot(document, anchor, part, progress));
  }

  /** How thick the wall is at some places, at most; 0 where it has no back, null when it could not be measured. */
  wallMetres(probes: readonly WallProbe[]): Promise<number | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.wallMetres(document, probes, progress));
  }

  async uvs(): Promise<UvReport[]> {
    const { document } = this.bench;
    return (await this.asked((jobs, progress) => jobs.uvs(document, progress))) ?? [];
  }

  /** Faces are chosen on what is drawn: with a change on show they are not the piece's own. Says so. */
  drawnAsItIs(): boolean {
    if (artKey(this.art.art?.document ?? this.bench.document) === artKey(this.bench.document)) return true;
    this.notices.say('These faces were chosen on a proposed change; keep or discard it first.');
    return false;
  }

  private async workOut(operation: Operation): Promise<Operated | null> {
    const { document } = this.bench;
    if (namesFaces(operation) && !this.drawnAsItIs()) return null;
    const done = await this.asked(
      (jobs, progress) => jobs.operate(document, operation, progress) as Promise<Operated>,
      false,
    );
    if (!done || this.same(document)) return done;
    // The result carries the whole tree, names and pivots too: it would undo what was changed meanwhile.
    this.notices.say('The piece was changed while this was worked out, so nothing came of it; do it again.');
    return null;
  }

  private same = (document: PieceDocument): boolean => document === this.bench.document;

  private async asked<T>(
    work: (jobs: Remote<Jobs>, progress: Progress) => Promise<T>,
    quick = true,
  ): Promise<T | null> {
    try {
      return await this.compute.run(work, { quick });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
      return null;
    }
  }
}

/** Whether an operation speaks of single faces or sides, which are numbered as they are drawn. */
const namesFaces = (operation: Operation): boolean =>
  ('faces' in operation && !!operation.faces?.length) || ('sides' in operation && !!operation.sides);
