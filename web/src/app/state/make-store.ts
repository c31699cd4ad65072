import { inject, Injectable } from '@angular/core';
import { counted, type Make } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { LadderStore } from './ladder-store';
import { Notices } from './notices';
import { Operations } from './operations';
import { Proposals } from './proposals';
import { Selection } from './selection';
import { setFigures } from './set-figures';

/** Shapes made of chosen art in one of several ways: proposed with the figures of the set before and after. */
@Injectable()
export class MakeStore {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly selection = inject(Selection);
  private readonly operations = inject(Operations);
  private readonly compute = inject(Compute);
  private readonly ladder = inject(LadderStore);
  private readonly notices = inject(Notices);
  private readonly busy$ = new BehaviorSubject(false);
  readonly working$ = this.busy$.asObservable();

  /** Numbers of the chosen faces; null when all the art is meant. */
  get faces(): Uint32Array<ArrayBuffer> | null {
    const chosen = this.selection.selected.faces?.faces;
    return chosen ? Uint32Array.from([...chosen.keys()].filter((face) => chosen[face])) : null;
  }

  /**
   * True when something is proposed; what was proposed before stays otherwise.
   *
   * @param title what was done, in one sentence
   */
  async propose(make: Make, title: string): Promise<boolean> {
    const { document, feltMetres } = this.bench;
    if ('faces' in make && make.faces && !this.operations.drawnAsItIs()) return false;
    const request = { toleranceMetres: feltMetres, maxCorners: this.ladder.maxCorners };
    this.busy$.next(true);
    try {
      const { edit, before, after } = await this.compute.run(
        (jobs, progress) => jobs.makeShapes(document, this.bench.profile, make, request, progress),
        { first: 'Making shapes' },
      );
      if (this.bench.document !== document) {
        this.notices.say('The piece was changed while shapes were made; make them again.');
        return false;
      }
      this.proposals.propose({
        source: 'make',
        title,
        keepLabel: `Keep ${counted(edit.changed.length, 'shape')}`,
        figures: setFigures(before, after, feltMetres),
        edit,
      });
      return true;
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
      return false;
    } finally {
      this.busy$.next(false);
    }
  }
}
