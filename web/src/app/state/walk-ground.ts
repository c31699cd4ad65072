import type { Agent, TrialContact } from '@yard-brace/core';
import type { DriveFrame, Trolley, WalkFrame, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import type { Observable } from 'rxjs';
import type { TrialJobs } from '../workers/trial.worker';

/** What somebody walks at, or drives over: the piece on the bench, or a set. */
export abstract class WalkGround {
  /** Put an agent before it. */
  abstract begin(jobs: Remote<TrialJobs>, agent: Agent, ahead: Way): Promise<WalkFrame>;
  /** Put a trolley at the near end of it. */
  abstract beginDrive(jobs: Remote<TrialJobs>, trolley: Trolley, way: Way): Promise<DriveFrame>;
  /** A walk by hand has ended that felt these, the worst first. */
  abstract felt(agent: Agent, contacts: readonly TrialContact[]): void;
  /** what is walked at is otherwise: it is walked at as it is from then on */
  abstract readonly changed$: Observable<unknown>;
  /** it is something else altogether: the walk ends */
  abstract readonly left$: Observable<unknown>;
}
