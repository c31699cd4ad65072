import { inject, Injectable, type OnDestroy } from '@angular/core';
import { type Agent, askedTrials, sourceKey, type WalkTrial } from '@yard-brace/core';
import { BehaviorSubject, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { Notices } from './notices';
import { SetOutStore } from './set-out-store';

/** A walk across the set, and who walked. */
export interface SetWalk {
  agent: Agent;
  walk: WalkTrial;
}

/** Agents that walk across the whole set; what came of it goes when the set changes. */
@Injectable()
export class SetOutTrial implements OnDestroy {
  private readonly store = inject(SetOutStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly made$ = new BehaviorSubject<readonly SetWalk[]>([]);
  private readonly busy$ = new BehaviorSubject(false);
  readonly walks$ = this.made$.asObservable();
  readonly working$ = this.busy$.asObservable();
  private readonly subscription: Subscription = this.store.setOut$.subscribe(() => {
    if (this.made$.value.length) this.made$.next([]);
  });

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  async walk(agent: Agent): Promise<void> {
    const { setOut, profile, rules } = this.store;
    const used = new Set(setOut.placements.map(sourceKey));
    const documents = new Map([...this.store.documents()].filter(([key]) => used.has(key)));
    const [first] = documents.values();
    if (!first) return;
    const { joltMetres } = askedTrials(first, rules);
    this.busy$.next(true);
    try {
      const walk = await this.compute.runTrial(
        (jobs, progress) =>
          jobs.walkSet(setOut, documents, profile, { agent, limits: { joltMetres } }, progress),
        { first: 'Fetching the art' },
      );
      if (this.store.setOut === setOut)
        this.made$.next([...this.made$.value.filter((each) => each.agent.id !== agent.id), { agent, walk }]);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }
}
