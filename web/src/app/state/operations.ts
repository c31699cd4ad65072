import { inject, Injectable } from '@angular/core';
import {
  artKey,
  type ComingApart,
  type FaultKind,
  type LikelyForward,
  type LikelyUp,
  type MatchingShift,
  type MaterialUse,
  type MeasuredAnchor,
  type Operation,
  type Outcome,
  outcomeText,
  type PieceDocument,
  type RoundFit,
  type Seam,
  type SplitToTry,
  type UvReport,
  type Vec3,
  type Walkable,
  type WallProbe,
} from '@yard-brace/core';
import type { Remote } from 'comlink';
import { sentenceOf } from '../api/told';
import { Compute, Stopped } from '../workers/compute';
import type { Jobs } from '../workers/compute.worker';
import type { FaultLines, Operated, Progress, UvValues } from '../workers/messages';
import { ArtStore } from './art-store';
import { BenchStore } from './bench-store';
import { artFigures } from './change-figures';
import { Notices } from './notices';
import { Proposals } from './proposals';
import { ViewMarks } from './view-marks';
import { applyEdit } from '@yard-brace/core';

/** An operation is worked out again so often when the piece is renamed and the like meanwhile. */
const MAX_TRIES = 3;

const CHANGED_MEANWHILE =
  'The piece was changed while this was worked out, so nothing came of it; do it again.';

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
  /** what is being made, for what comes after it */
  private making: Promise<unknown> = Promise.resolve();

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

  /**
   * Work an operation out and make it at once; it can be undone. One after the other: what is told as a function is asked
   * for the piece as the one before left it, so that values may be typed faster than they are worked out.
   */
  make(wanted: Operation | ((document: PieceDocument) => Operation)): Promise<boolean> {
    const { id } = this.bench.piece;
    const { document } = this.bench;
    const made = this.making.then(() => {
      if (this.bench.piece.id !== id) return false;
      // It names things of the piece as it was when it was asked for.
      if (typeof wanted !== 'function' && artKey(document) !== artKey(this.bench.document)) {
        this.notices.say(CHANGED_MEANWHILE);
        return false;
      }
      return this.makeNow(wanted);
    });
    this.making = made.catch(() => undefined);
    return made;
  }

  private async makeNow(wanted: Operation | ((document: PieceDocument) => Operation)): Promise<boolean> {
    const done = await this.workOut(typeof wanted === 'function' ? wanted(this.bench.document) : wanted);
    if (!done) return false;
    this.bench.apply(done.edit);
    this.notices.say(outcomeText(done.outcome));
    return true;
  }

  /** What an operation makes of the piece as a piece of its own; the one on the bench stays. Its number, or null. */
  async asPiece(operation: Operation, called: string): Promise<number | null> {
    const done = await this.workOut(operation);
    if (!done) return null;
    try {
      return await this.bench.addBeside(applyEdit(this.bench.document, done.edit), called);
    } catch (error) {
      this.notices.error(error);
      return null;
    }
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

  /** Null when it could not be measured, and for an open surface, which has no centroid: that is said. */
  async measuredPivot(anchor: MeasuredAnchor, part: string | null): Promise<Vec3 | null> {
    const { document } = this.bench;
    const none = Symbol();
    const found = await this.asked(
      async (jobs, progress) => (await jobs.measuredPivot(document, anchor, part, progress)) ?? none,
    );
    if (found !== none) return found as Vec3 | null;
    this.notices.say(
      'The surface is open and encloses nothing, so it has no centre of mass; weld or fill it, or choose another place.',
      true,
    );
    return null;
  }

  /** The axis of the round that a face of the drawn art is part of; says when it is none. */
  async roundAxis(face: number): Promise<RoundFit | null> {
    const { document } = this.bench;
    const none = Symbol();
    const found = await this.asked(
      async (jobs, progress) => (await jobs.roundAxis(document, face, progress)) ?? none,
    );
    if (found !== none) return found as RoundFit | null;
    this.notices.say('That is not round; click a bore, a pin, a rim or a tread.', true);
    return null;
  }

  /** Where this piece and one beside it should meet. */
  seam(beside: PieceDocument, reachMetres: number): Promise<Seam | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.seam(document, beside, reachMetres, progress));
  }

  /** From another piece's art to the same art of this one. */
  familyMatch(other: PieceDocument): Promise<MatchingShift | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.familyMatch(document, other, progress));
  }

  materialUses(): Promise<{ uses: MaterialUse[]; none: number } | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.materialUses(document, progress));
  }

  hardEdges(): Promise<FaultLines | null> {
    const { document } = this.art;
    return this.asked((jobs, progress) => jobs.hardEdges(document, progress));
  }

  uvPaint(set: number): Promise<UvValues | null> {
    const { document } = this.art;
    return this.asked((jobs, progress) => jobs.uvPaint(document, set, progress));
  }

  comingApart(split: SplitToTry): Promise<ComingApart | null> {
    const { document } = this.art;
    return this.asked((jobs, progress) => jobs.comingApart(document, split, progress));
  }

  walk(): Promise<{ art: Walkable; shapes: Walkable | null } | null> {
    const { document, profile } = this.bench;
    return this.asked((jobs, progress) => jobs.walk(document, profile, progress));
  }

  extent(direction: Vec3): Promise<number | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.extent(document, direction, progress));
  }

  likelyAxes(): Promise<{ up: LikelyUp; now: LikelyUp; forward: LikelyForward | null } | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.likelyAxes(document, progress));
  }

  /** How thick the wall is at some places, at most; 0 where it has no back, null when it could not be measured. */
  wallMetres(probes: readonly WallProbe[]): Promise<number | null> {
    const { document } = this.bench;
    return this.asked((jobs, progress) => jobs.wallMetres(document, probes, progress));
  }

  /** @param texels side of a picture that gaps between islands are told in */
  async uvs(texels = 1024): Promise<UvReport[]> {
    const { document } = this.bench;
    return (await this.asked((jobs, progress) => jobs.uvs(document, texels, progress))) ?? [];
  }

  /** Faces are chosen on what is drawn: with a change on show they are not the piece's own. Says so. */
  drawnAsItIs(): boolean {
    if (artKey(this.art.art?.document ?? this.bench.document) === artKey(this.bench.document)) return true;
    this.notices.say('These faces were chosen on a proposed change; keep or discard it first.');
    return false;
  }

  private async workOut(operation: Operation, tries = MAX_TRIES): Promise<Operated | null> {
    const { document } = this.bench;
    if (namesFaces(operation) && !this.drawnAsItIs()) return null;
    const done = await this.asked(
      (jobs, progress) => jobs.operate(document, operation, progress) as Promise<Operated>,
      false,
    );
    if (!done || this.same(document)) return done;
    // The result carries the whole tree, names and pivots too: it would undo what was changed meanwhile. Where the art
    // is still the same, as after a rename, the same operation is worked out again on the piece as it is now.
    if (tries > 1 && artKey(document) === artKey(this.bench.document))
      return this.workOut(operation, tries - 1);
    this.notices.say(CHANGED_MEANWHILE);
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
  ('faces' in operation && !!operation.faces?.length) || ('edges' in operation && !!operation.edges?.length);
