import { inject, Injectable, type OnDestroy } from '@angular/core';
import { faultId, faultWords, type FaultWords, type SetCheck, type SetFault } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, debounceTime, map, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { Notices } from './notices';
import { SetOutStore } from './set-out-store';

/** A set is looked at anew when nothing has changed for so long. */
const CHECK_AFTER_MS = 500;

/** A fault with its words, as lists show it. */
export interface ToldFault {
  id: string;
  fault: SetFault;
  words: FaultWords;
}

/** Whether the pieces of the set-out meet: looked at by itself after each change, off the page's own thread. */
@Injectable()
export class SetOutCheck implements OnDestroy {
  private readonly store = inject(SetOutStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly found$ = new BehaviorSubject<SetCheck | null>(null);
  private readonly busy$ = new BehaviorSubject(false);
  /** null before the first look */
  readonly check$ = this.found$.asObservable();
  readonly working$ = this.busy$.asObservable();
  readonly faults$ = combineLatest([this.found$, this.store.names$]).pipe(
    map(([check, names]) =>
      (check?.faults ?? []).map((fault): ToldFault => ({
        id: faultId(fault),
        fault,
        words: faultWords(fault, (id) => names.get(id) ?? id),
      })),
    ),
  );
  private readonly subscription: Subscription;
  private asked = 0;

  constructor() {
    this.subscription = combineLatest([this.store.setOut$, this.store.sources$])
      .pipe(debounceTime(CHECK_AFTER_MS))
      .subscribe(() => void this.look());
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private async look(): Promise<void> {
    const { setOut, rules } = this.store;
    const documents = this.store.usedDocuments();
    const asked = ++this.asked;
    this.busy$.next(true);
    try {
      const check = await this.compute.run(
        (jobs, progress) => jobs.checkSet(setOut, documents, rules.agents, progress),
        { first: 'Looking whether they meet', silent: true },
      );
      if (asked === this.asked) this.found$.next(check);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      if (asked === this.asked) this.busy$.next(false);
    }
  }
}
