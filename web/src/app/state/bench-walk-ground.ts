import { inject, Injectable } from '@angular/core';
import type { Agent, TrialContact } from '@yard-brace/core';
import type { DriveFrame, Trolley, WalkFrame, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import { distinctUntilChanged, map, skip } from 'rxjs';
import type { TrialJobs } from '../workers/trial.worker';
import { BenchStore } from './bench-store';
import { TrialStore } from './trial-store';
import { WalkGround } from './walk-ground';

/** The piece on the bench, with its shapes as the target has them. */
@Injectable()
export class BenchWalkGround extends WalkGround {
  private readonly bench = inject(BenchStore);
  private readonly trials = inject(TrialStore);
  /** the piece that is walked at */
  private walked: number | null = null;
  readonly changed$ = this.bench.document$.pipe(
    map(({ proxies }) => proxies),
    distinctUntilChanged(),
    skip(1),
  );
  readonly left$ = this.bench.piece$.pipe(
    map((piece) => piece?.id),
    distinctUntilChanged(),
    skip(1),
  );

  begin(jobs: Remote<TrialJobs>, agent: Agent, ahead: Way): Promise<WalkFrame> {
    const { document, profile, piece } = this.bench;
    this.walked = piece.id;
    return jobs.beginWalk(document, profile, agent, ahead) as Promise<WalkFrame>;
  }

  beginDrive(jobs: Remote<TrialJobs>, trolley: Trolley, way: Way): Promise<DriveFrame> {
    const { document, profile } = this.bench;
    return jobs.beginDrive(document, profile, trolley, way) as Promise<DriveFrame>;
  }

  felt(agent: Agent, contacts: readonly TrialContact[]): void {
    // A walk also ends because another piece has come to the bench.
    if (this.bench.piece.id === this.walked) void this.trials.keepFelt(agent, contacts);
  }
}
