import { inject, Injectable } from '@angular/core';
import type { FacesOfParts, SetFix } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { ChosenAreas } from './chosen-areas';
import { LadderStore } from './ladder-store';
import { Notices } from './notices';
import { Proposals } from './proposals';
import { Selection } from './selection';
import { setFigures } from './set-figures';

const DONE: Record<SetFix['fix'], string> = {
  'cut-back': 'Shapes cut back out of the openings.',
  trim: 'Shapes trimmed so that they meet.',
  'wrap-bare': 'Bare areas wrapped.',
  'lay-bars': 'Bars laid along ridden edges.',
  refit: 'Shapes fitted anew to their art.',
};
const NOTHING: Record<SetFix['fix'], string> = {
  'cut-back': 'No shape goes into an opening any more.',
  trim: 'These shapes cannot be trimmed without losing what they cover; move or cut them by hand.',
  'wrap-bare': 'No area of the art is bare any more.',
  'lay-bars': 'Every ridden edge has an edge of a shape along it.',
  refit: 'A shape of the same kind would not lie closer there; add a shape, or choose another kind.',
};

/** Mends of a set of shapes: worked out on the art, proposed with the figures of before and after. */
@Injectable()
export class SetFixes {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly ladder = inject(LadderStore);
  private readonly notices = inject(Notices);
  private readonly areas = inject(ChosenAreas);
  private readonly selection = inject(Selection);
  private readonly busy$ = new BehaviorSubject(false);
  readonly working$ = this.busy$.asObservable();

  /** Chooses the faces that no shape covers: to wrap them, or to break them up. */
  async chooseBare(): Promise<void> {
    // What was chosen before is not what the next click means.
    this.selection.clearFaces();
    const faces = await this.bareFaces();
    if (faces) this.areas.choose({ faces });
  }

  /** Nothing collides with the faces that no shape covers. */
  async leaveOutBare(): Promise<void> {
    const faces = await this.bareFaces();
    if (faces?.length) this.bench.apply({ kind: 'set-faces-collision', faces, collides: false });
  }

  /** The faces that no shape covers; null when that was stopped or the piece was changed meanwhile. */
  private async bareFaces(): Promise<FacesOfParts | null> {
    const { document, feltMetres } = this.bench;
    this.busy$.next(true);
    try {
      const faces = await this.compute.run(
        (jobs, progress) => jobs.bareFaces(document, this.bench.profile, feltMetres, progress),
        { first: 'Measuring the shapes' },
      );
      return this.bench.document === document ? faces : null;
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
      return null;
    } finally {
      this.busy$.next(false);
    }
  }

  async propose(fix: SetFix): Promise<void> {
    const { document, feltMetres } = this.bench;
    const request = { toleranceMetres: feltMetres, maxCorners: this.ladder.maxCorners };
    this.busy$.next(true);
    try {
      const fixed = await this.compute.run(
        (jobs, progress) => jobs.fixShapes(document, this.bench.profile, fix, request, progress),
        { first: 'Fitting shapes' },
      );
      if (this.bench.document !== document) return;
      if (!fixed) return this.notices.say(NOTHING[fix.fix]);
      this.proposals.propose({
        source: 'set',
        title: DONE[fix.fix],
        edit: fixed.edit,
        figures: setFigures(fixed.before, fixed.after, feltMetres),
      });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }
}
