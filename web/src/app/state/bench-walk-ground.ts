import { inject, Injectable } from '@angular/core';
import type { Agent } from '@yard-brace/core';
import type { WalkFrame, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import { distinctUntilChanged, map, skip } from 'rxjs';
import type { TrialJobs } from '../workers/trial.worker';
import { BenchStore } from './bench-store';
import { WalkGround } from './walk-ground';

/** The piece on the bench, with its shapes as the target has them. */
@Injectable()
export class BenchWalkGround extends WalkGround {
  private readonly bench = inject(BenchStore);
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
    const { document, profile } = this.bench;
    return jobs.beginWalk(document, profile, agent, ahead) as Promise<WalkFrame>;
  }
}
