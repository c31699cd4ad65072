import { inject, Injectable } from '@angular/core';
import { type Agent, askedTrials, takesOf, type Vec3, type WalkTrial, walkTrialKey } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, map } from 'rxjs';
import { Told } from '../api/told';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Notices } from './notices';

/** A walk as it was made, and whether it still tells of the piece. */
export interface KeptWalk {
  agent: Agent;
  walk: WalkTrial;
  /** nothing that matters has changed since */
  current: boolean;
}

export interface Flag {
  id: string;
  at: Vec3;
}

/** Trials of the piece: made on workers, and kept with the state that they were made on. */
@Injectable()
export class TrialStore {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly busy$ = new BehaviorSubject(false);
  readonly working$ = this.busy$.asObservable();
  private readonly flagged$ = new BehaviorSubject<readonly Flag[]>([]);
  /** places that are flagged in the view, numbered in their order */
  readonly flags$ = this.flagged$.asObservable();
  /** walks of the agents that the yard has, in its order */
  readonly walks$ = combineLatest([this.bench.document$, this.bench.measured$, this.bench.piece$]).pipe(
    map(([document, measured]): KeptWalk[] => {
      const limits = askedTrials(document, this.bench.rules);
      const takes = takesOf(this.bench.profile);
      return this.bench.rules.agents.flatMap((agent) => {
        const walk = measured?.trials?.walks.find((each) => each.agent === agent.id);
        return walk
          ? [{ agent, walk, current: walk.key === walkTrialKey(document, agent, limits, takes) }]
          : [];
      });
    }),
  );

  showFlags(flags: readonly Flag[]): void {
    if (flags.length || this.flagged$.value.length) this.flagged$.next(flags);
  }

  /** Agents are sent at the piece from all sides; what comes of it is kept. */
  async walk(agents: readonly Agent[]): Promise<void> {
    const { document, profile, rules } = this.bench;
    const { id } = this.bench.piece;
    const { joltMetres } = askedTrials(document, rules);
    this.busy$.next(true);
    try {
      const walks = await this.compute.runTrial(
        (jobs, progress) => jobs.walkTrials(document, profile, { walkers: agents, joltMetres }, progress),
        { first: 'Fetching the art' },
      );
      if (this.bench.piece.id !== id) return;
      const measured = this.bench.lastMeasured;
      if (!measured)
        throw new Told(
          'The shapes are still being measured; walk again when the proxies step has its figures.',
        );
      const others = (measured.trials?.walks ?? []).filter(
        ({ agent }) =>
          !walks.some((walk) => walk.agent === agent) && rules.agents.some((each) => each.id === agent),
      );
      await this.bench.measured({
        ...measured,
        trials: { ...measured.trials, walks: [...others, ...walks] },
      });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }
}
