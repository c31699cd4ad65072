import { inject, Injectable, signal } from '@angular/core';
import { add, distance, subtract, type Vec3 } from '@yard-brace/core';
import { Compute, Stopped } from '../workers/compute';
import type { ChainAsk } from '../workers/messages';
import { BenchStore } from './bench-store';
import { MakeStore } from './make-store';
import { Notices } from './notices';
import { Picking } from './picking';
import { Proposals } from './proposals';

/** The line that was found of a run, corrected joint by joint while the chain along it is on show. */
@Injectable()
export class RunCorrection {
  private readonly bench = inject(BenchStore);
  private readonly make = inject(MakeStore);
  private readonly compute = inject(Compute);
  private readonly picking = inject(Picking);
  private readonly notices = inject(Notices);
  private readonly proposals = inject(Proposals);
  readonly working = signal(false);

  async correct(ask: ChainAsk): Promise<void> {
    const { document } = this.bench;
    const { faces } = this.make;
    if (!faces)
      return this.notices.say('Choose the faces of one run first; its line is corrected then.', true);
    this.working.set(true);
    // Kept or discarded, the chain is no longer on show, and there is nothing more to pick.
    const shown = this.proposals.proposal$.subscribe((proposal) => {
      if (!proposal) this.picking.cancel();
    });
    try {
      const found = await this.compute.run((jobs, progress) => jobs.runLine(document, faces, ask, progress), {
        first: 'Following the run',
      });
      const proposed = (line: Vec3[]) =>
        this.make.propose(
          { make: 'drawn-chain', ...found, line },
          'A chain of boxes along the corrected line.',
        );
      let { line } = found;
      if (!(await proposed(line))) return;
      while (this.bench.document === document) {
        const moved = await this.movedJoint(line);
        if (!moved) return;
        // Where no chain can be laid, the joint stays, and why was said.
        if (await proposed(moved)) line = moved;
      }
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      shown.unsubscribe();
      this.working.set(false);
    }
  }

  /** The line with one joint moved; null when the person is content with it. */
  private async movedJoint(line: readonly Vec3[]): Promise<Vec3[] | null> {
    const from = await this.picking.ask(
      'Pick the art at a joint of the chain that is to move; Cancel when all are right.',
    );
    const to =
      from &&
      (await this.picking.ask('Pick a second place: the joint moves as far as it lies from the first.', {
        ground: true,
      }));
    if (!from || !to) return null;
    // The line runs inside the art, and what is picked is its surface: a joint moves by the way between two picks.
    const way = subtract(to.at, from.at);
    const off = line.map((joint) => distance(joint, from.at));
    const nearest = off.indexOf(Math.min(...off));
    return line.map((joint, i) => (i === nearest ? add(joint, way) : joint));
  }
}
