import { inject, Injectable } from '@angular/core';
import type { Agent } from '@yard-brace/core';
import type { DriveFrame, Trolley, WalkFrame, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import { distinctUntilChanged, map, skip } from 'rxjs';
import type { TrialJobs } from '../workers/trial.worker';
import { SetOutStore } from './set-out-store';
import { WalkGround } from './walk-ground';

/** The whole set, with all shapes as the target has them. */
@Injectable()
export class SetOutWalkGround extends WalkGround {
  private readonly store = inject(SetOutStore);
  readonly changed$ = this.store.setOut$.pipe(skip(1));
  readonly left$ = this.store.open$.pipe(
    map((open) => open?.id),
    distinctUntilChanged(),
    skip(1),
  );

  begin(jobs: Remote<TrialJobs>, agent: Agent, ahead: Way): Promise<WalkFrame> {
    const { setOut, profile } = this.store;
    return jobs.beginSetWalk(setOut, this.store.documents(), profile, agent, ahead) as Promise<WalkFrame>;
  }

  beginDrive(jobs: Remote<TrialJobs>, trolley: Trolley, way: Way): Promise<DriveFrame> {
    const { setOut, profile } = this.store;
    return jobs.beginSetDrive(setOut, this.store.documents(), profile, trolley, way) as Promise<DriveFrame>;
  }

  felt(): void {
    // Trials of a set are not kept: there is no state to tell them by.
  }
}
