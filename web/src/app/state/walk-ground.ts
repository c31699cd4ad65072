import type { Agent } from '@yard-brace/core';
import type { WalkFrame, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import type { Observable } from 'rxjs';
import type { TrialJobs } from '../workers/trial.worker';

/** What somebody walks at: the piece on the bench, or a set. */
export abstract class WalkGround {
  /** Put an agent before it. */
  abstract begin(jobs: Remote<TrialJobs>, agent: Agent, ahead: Way): Promise<WalkFrame>;
  /** what is walked at is otherwise: it is walked at as it is from then on */
  abstract readonly changed$: Observable<unknown>;
  /** it is something else altogether: the walk ends */
  abstract readonly left$: Observable<unknown>;
}
