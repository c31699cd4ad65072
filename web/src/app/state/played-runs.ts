import type { Observable } from 'rxjs';
import type { BodyTrialRun } from '../workers/jobs/body-trial';

/** Where trials with bodies come from that are played in the view. */
export abstract class PlayedRuns {
  /** the last one; null for none */
  abstract readonly played$: Observable<BodyTrialRun | null>;
  /** Nothing is played any more. */
  abstract stopPlaying(): void;
}
