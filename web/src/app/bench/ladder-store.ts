import { inject, Injectable } from '@angular/core';
import {
  type Agent,
  deviationOf,
  type Ladder,
  openClearances,
  type PieceDocument,
  type Rung,
  type Shape,
  type ShapeComparison,
} from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Compute, Stopped } from '../compute/compute';
import type { LadderRequest } from '../compute/messages';
import { counted } from '../shell/figures';
import { Notices } from '../shell/notices';
import { BenchStore } from './bench-store';

/** A run of the ladder, and where on it the person stands. */
export interface ShownLadder extends Ladder {
  agent: Agent | null;
  /** only for some faces: kept shapes are added to those that are there */
  ofFaces: boolean;
  /** what is there now; null when there are no shapes, or when they cannot be measured */
  now: ShapeComparison | null;
  /** number of the rung that is shown */
  at: number;
}

/** The figures of a set of shapes, as the card writes them. */
export interface RungFigures {
  shapes: number;
  corners: number;
  proxyOutside: number;
  artOutside: number;
  overfill: number;
  open: number;
}

/** Breaking a piece into convex shapes: one run, every count. */
@Injectable()
export class LadderStore {
  private readonly store = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  readonly ladder$ = new BehaviorSubject<ShownLadder | null>(null);
  readonly working$ = new BehaviorSubject(false);

  constructor() {
    // Kept, left, or gone because the piece has changed: the ladder has served.
    this.store.proposal$.subscribe((proposal) => {
      if (this.ladder$.value && !proposal?.ladder) this.ladder$.next(null);
    });
  }

  async run(options: Omit<LadderRequest, 'clearances' | 'agentDetail'>, agent: Agent | null): Promise<void> {
    const { document } = this.store;
    this.working$.next(true);
    try {
      const { ladder, now } = await this.compute.run(
        (worker, progress) =>
          worker.ladder(
            document,
            { ...options, agentDetail: agent?.detail ?? 0, clearances: clearanceShapes(document) },
            progress,
          ),
        { first: 'Breaking into shapes' },
      );
      if (this.store.document !== document) {
        this.notices.say('The piece was changed while it was broken into shapes; break it again.');
        return;
      }
      const at = ladder.goodEnough ?? ladder.rungs.length - 1;
      const ofFaces = options.faces !== undefined;
      this.ladder$.next({ ...ladder, agent, ofFaces, now, at });
      this.turnTo(at);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.working$.next(false);
    }
  }

  /** Show another rung; the view follows at once. */
  turnTo(at: number): void {
    const ladder = this.ladder$.value;
    const rung = ladder?.rungs[at];
    if (!ladder || !rung) return;
    this.ladder$.next({ ...ladder, at });
    const kept = ladder.ofFaces ? this.store.document.proxies : [];
    this.store.proposeShapes({
      what: `Broken into ${counted(rung.shapes.length, 'shape')}`,
      ladder: true,
      cutBack: 0,
      proxies: [...kept, ...rung.shapes.map((shape, i) => ({ id: idFor(kept.length + i + 1, at), shape }))],
    });
  }
}

const idFor = (number: number, rung: number) => `rung-${rung + 1}-${number}`;

/** The clearances of a piece as shapes that nothing may enter. */
export const clearanceShapes = ({ clearances }: Pick<PieceDocument, 'clearances'>): Shape[] =>
  clearances.map(({ center, halfExtents, rotation }) => ({ kind: 'box', center, halfExtents, rotation }));

export function figuresOfSet(
  shapes: readonly Shape[],
  figures: ShapeComparison,
  clearances: readonly Shape[],
): RungFigures {
  return {
    shapes: figures.cost.shapes,
    corners: figures.cost.vertices,
    proxyOutside: figures.proxyOutside.max,
    artOutside: figures.artOutside.max,
    overfill: figures.overfill,
    open: openClearances(clearances, shapes).filter(Boolean).length,
  };
}

/** How far a rung is off, for the chart: millimetres. */
export const millimetresOff = (rung: Rung): number => deviationOf(rung) * 1000;
