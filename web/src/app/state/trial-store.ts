import { inject, Injectable } from '@angular/core';
import {
  type Agent,
  askedTrials,
  type BodyTrialAsk,
  bodyTrialKey,
  bodyTrialSubject,
  type PieceDocument,
  takesOf,
  type TargetProfile,
  type TrialContact,
  type TrialFacts,
  type WalkTrial,
  walkTrialKey,
  withFelt,
  withWalks,
} from '@yard-brace/core';
import { BehaviorSubject, combineLatest, map } from 'rxjs';
import { Told } from '../api/told';
import { Compute, Stopped } from '../workers/compute';
import type { BodyTrialRun } from '../workers/jobs/body-trial';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import type { PlayedRuns } from './played-runs';

/** A walk as it was made, and whether it still tells of the piece. */
export interface KeptWalk {
  agent: Agent;
  walk: WalkTrial;
  /** nothing that matters has changed since */
  current: boolean;
}

/** Trials of the piece: made on workers, and kept with the state that they were made on. */
@Injectable()
export class TrialStore implements PlayedRuns {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly busy$ = new BehaviorSubject(false);
  readonly working$ = this.busy$.asObservable();
  /** walks of the agents that the yard has, in its order */
  readonly walks$ = combineLatest([this.bench.document$, this.bench.measured$, this.bench.piece$]).pipe(
    map(([document, measured]): KeptWalk[] => {
      return this.bench.rules.agents.flatMap((agent) => {
        const walk = measured?.trials?.walks.find((each) => each.agent === agent.id);
        return walk ? [{ agent, walk, current: walk.key === this.keyOf(document, agent) }] : [];
      });
    }),
  );
  /** what was felt by hand, by agent, while it still tells of the piece */
  readonly felt$ = combineLatest([this.bench.document$, this.bench.measured$, this.bench.piece$]).pipe(
    map(([document, measured]): ReadonlyMap<string, readonly TrialContact[]> => {
      const { agents } = this.bench.rules;
      return new Map(
        (measured?.trials?.felt ?? []).flatMap(({ agent, key, contacts }) => {
          const who = agents.find(({ id }) => id === agent);
          return who && key === this.keyOf(document, who) ? [[agent, contacts] as const] : [];
        }),
      );
    }),
  );

  private readonly run$ = new BehaviorSubject<BodyTrialRun | null>(null);
  /** the last trial with bodies, to be played in the view; null for none */
  readonly played$ = this.run$.asObservable();
  /** trials with bodies, and whether each still tells of the piece */
  readonly bodies$ = combineLatest([this.bench.document$, this.bench.measured$, this.bench.piece$]).pipe(
    map(([document, measured]) =>
      (measured?.trials?.bodies ?? []).map((trial) => ({
        trial,
        current: trial.key === bodyTrialKey(document, trial.ask, takesOf(this.bench.profile)),
      })),
    ),
  );
  readonly cost$ = combineLatest([this.bench.document$, this.bench.measured$, this.bench.piece$]).pipe(
    map(([document, measured]) => {
      const cost = measured?.trials?.cost;
      return (
        cost && { cost, current: cost.key === bodyTrialKey(document, null, takesOf(this.bench.profile)) }
      );
    }),
  );

  /** What moves is tried with the shapes; what comes of it is kept, and how it went can be played. */
  async tryBody(ask: BodyTrialAsk): Promise<void> {
    await this.keep(async (document, profile) => {
      const run = await this.compute.runTrial(
        (jobs, progress) => jobs.bodyTrial(document, profile, ask, progress),
        { first: 'Fetching the art' },
      );
      this.run$.next(run);
      return ({ bodies, ...trials }) => ({
        ...trials,
        bodies: [
          ...bodies.filter((each) => bodyTrialSubject(each) !== bodyTrialSubject(run.trial)),
          run.trial,
        ],
      });
    });
  }

  /** What copies cost on this machine. */
  async measureCost(): Promise<void> {
    await this.keep(async (document, profile) => {
      const cost = await this.compute.runTrial(
        (jobs, progress) => jobs.trialCost(document, profile, progress),
        { first: 'Fetching the art' },
      );
      return (trials) => ({ ...trials, cost });
    });
  }

  /** Nothing is played any more. */
  stopPlaying(): void {
    if (this.run$.value) this.run$.next(null);
  }

  /** Agents are sent at the piece from all sides; what comes of it is kept. */
  async walk(agents: readonly Agent[]): Promise<void> {
    const { joltMetres } = askedTrials(this.bench.document, this.bench.rules);
    await this.keep(async (document, profile) => {
      const walks = await this.compute.runTrial(
        (jobs, progress) => jobs.walkTrials(document, profile, { walkers: agents, joltMetres }, progress),
        { first: 'Fetching the art' },
      );
      return (trials) => withWalks(trials, walks, this.bench.rules.agents);
    });
  }

  /** A walk by hand felt these: what is worse than before is kept. */
  async keepFelt(agent: Agent, contacts: readonly TrialContact[]): Promise<void> {
    // It is kept by itself: where the shapes are not measured yet nobody is asked to try again.
    if (!contacts.length || !this.bench.lastMeasured) return;
    await this.keep(async (document) => {
      const key = this.keyOf(document, agent);
      return ({ felt, ...trials }) => {
        const before = felt.find((each) => each.agent === agent.id && each.key === key);
        const kept = { key, agent: agent.id, contacts: withFelt(before?.contacts ?? [], contacts) };
        return { ...trials, felt: [...felt.filter((each) => each.agent !== agent.id), kept] };
      };
    });
  }

  private keyOf(document: PieceDocument, agent: Agent): string {
    return walkTrialKey(
      document,
      agent,
      askedTrials(document, this.bench.rules),
      takesOf(this.bench.profile),
    );
  }

  /** Works something out, and keeps it with what was tried before, on the piece that it was worked out on. */
  private async keep(
    work: (document: PieceDocument, profile: TargetProfile) => Promise<(trials: TrialFacts) => TrialFacts>,
  ): Promise<void> {
    const { document, profile } = this.bench;
    const { id } = this.bench.piece;
    this.busy$.next(true);
    try {
      const added = await work(document, profile);
      if (this.bench.piece.id !== id) return;
      const measured = this.bench.lastMeasured;
      if (!measured)
        throw new Told(
          'The shapes are still being measured; try again when the proxies step has its figures.',
        );
      const trials = added(measured.trials ?? { walks: [], bodies: [], felt: [] });
      await this.bench.measured({ ...measured, trials });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }
}
