import { inject, Injectable, type OnDestroy } from '@angular/core';
import { type Agent, askedTrials, type PieceDocument, type WalkTrial } from '@yard-brace/core';
import { BehaviorSubject, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import type { AcrossAsk, BodyTrialRun } from '../workers/jobs/body-trial';
import { Notices } from './notices';
import type { PlayedRuns } from './played-runs';
import { SetOutStore } from './set-out-store';

/** A walk across the set, and who walked. */
export interface SetWalk {
  agent: Agent;
  walk: WalkTrial;
}

/** Agents that walk across the whole set; what came of it goes when the set changes. */
@Injectable()
export class SetOutTrial implements PlayedRuns, OnDestroy {
  private readonly store = inject(SetOutStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly made$ = new BehaviorSubject<readonly SetWalk[]>([]);
  private readonly busy$ = new BehaviorSubject(false);
  readonly walks$ = this.made$.asObservable();
  readonly working$ = this.busy$.asObservable();
  private readonly run$ = new BehaviorSubject<BodyTrialRun | null>(null);
  readonly played$ = this.run$.asObservable();
  private readonly subscription: Subscription = this.store.setOut$.subscribe(() => {
    if (this.made$.value.length) this.made$.next([]);
    this.stopPlaying();
  });

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  stopPlaying(): void {
    if (this.run$.value) this.run$.next(null);
  }

  /** An agent sent across the whole set. */
  async walk(agent: Agent): Promise<void> {
    const { setOut, profile, rules } = this.store;
    await this.work(async (documents, first) => {
      const { joltMetres } = askedTrials(first, rules);
      const walk = await this.compute.runTrial(
        (jobs, progress) =>
          jobs.walkSet(setOut, documents, profile, { agent, limits: { joltMetres } }, progress),
        { first: 'Fetching the art' },
      );
      if (this.store.setOut === setOut)
        this.made$.next([...this.made$.value.filter((each) => each.agent.id !== agent.id), { agent, walk }]);
    });
  }

  /** Something rolls or drives across the whole set; how it went is played. */
  async tryAcross(ask: AcrossAsk): Promise<void> {
    const { setOut, profile } = this.store;
    await this.work(async (documents) => {
      const run = await this.compute.runTrial(
        (jobs, progress) => jobs.acrossSet(setOut, documents, profile, ask, progress),
        { first: 'Fetching the art' },
      );
      if (this.store.setOut === setOut) this.run$.next(run);
    });
  }

  private async work(
    make: (documents: ReadonlyMap<string, PieceDocument>, first: PieceDocument) => Promise<void>,
  ): Promise<void> {
    const documents = this.store.usedDocuments();
    const [first] = documents.values();
    if (!first) return;
    this.busy$.next(true);
    try {
      await make(documents, first);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }
}
