import { inject, Injectable, signal } from '@angular/core';
import { ownFrame } from '@yard-brace/core';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { MakeStore } from './make-store';
import { Notices } from './notices';
import { ShapeEditor } from './shape-editor';

/** Copies of the chosen shapes along the run that the chosen faces make. */
@Injectable()
export class CopiesAlong {
  private readonly bench = inject(BenchStore);
  private readonly editor = inject(ShapeEditor);
  private readonly make = inject(MakeStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  readonly working = signal(false);

  async copy(count: number): Promise<void> {
    const { document } = this.bench;
    const { faces } = this.make;
    const [first] = this.editor.chosen;
    if (!faces || !first) return;
    this.working.set(true);
    try {
      const places = await this.compute.run(
        (jobs, progress) =>
          jobs.runPlaces(document, faces, { at: ownFrame(first.shape).center, count }, progress),
        { first: 'Following the run' },
      );
      if (this.bench.document === document) this.editor.copyLinked(places);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.working.set(false);
    }
  }
}
