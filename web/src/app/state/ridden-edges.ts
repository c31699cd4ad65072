import { inject, Injectable } from '@angular/core';
import { markRidden } from '@yard-brace/core';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import { Selection } from './selection';

/** Bends of an edge below this share of what is felt are left out: it is ridden straight. */
const STRAIGHT_SHARE = 0.25;

/** Edges that something slides along or grips. */
@Injectable()
export class RiddenEdges {
  private readonly bench = inject(BenchStore);
  private readonly selection = inject(Selection);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);

  /** Marks the run of edges that was chosen last. */
  async markRun(): Promise<void> {
    const { document, feltMetres } = this.bench;
    const runs = this.selection.lastRun.map(({ part, sides }) => ({ part, sides }));
    try {
      const line = await this.compute.run(
        (jobs, progress) => jobs.riddenEdge(document, runs, feltMetres * STRAIGHT_SHARE, progress),
        { first: 'Following the edge', quick: true },
      );
      if (this.bench.document !== document) return;
      if (!line)
        return this.notices.say(
          'These edges are no single run; click one edge and mark its run alone.',
          true,
        );
      this.bench.apply(markRidden(document, line));
      this.selection.clearFaces();
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }

  rename(id: string, name: string): void {
    const edge = this.bench.document.riddenEdges.find((each) => each.id === id);
    if (edge && name.trim() && name.trim() !== edge.name)
      this.bench.apply({ kind: 'set-ridden-edges', changed: [{ ...edge, name: name.trim() }], removed: [] });
  }

  forget(id: string): void {
    this.bench.apply({ kind: 'set-ridden-edges', changed: [], removed: [id] });
  }
}
