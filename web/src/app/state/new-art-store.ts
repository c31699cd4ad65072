import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { NewArtReport, ProxyFit } from '@yard-brace/core';
import { withPivotsAlong } from '@yard-brace/core';
import { BehaviorSubject, combineLatest, filter, map, Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { NewArtDesk, type ToCompare } from './new-art-desk';
import { Notices } from './notices';
import { type Proposal, Proposals } from './proposals';

/** New art that was compared with the piece, and the proposal that it would be taken by. */
export interface ComparedArt {
  report: NewArtReport;
  fits: readonly ProxyFit[];
  title: string;
  /** the pivots go along with the new art instead of being put back */
  goAlong: boolean;
  proposal: Proposal;
}

/** New art for the piece on the bench: what it would change, before anything is replaced. */
@Injectable()
export class NewArtStore implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly desk = inject(NewArtDesk);
  private readonly notices = inject(Notices);
  private readonly last$ = new BehaviorSubject<ComparedArt | null>(null);
  /** it stands as long as its proposal is on show: kept, discarded or out of date, it goes with it */
  readonly compared$ = combineLatest([this.last$, this.proposals.proposal$]).pipe(
    map(([compared, proposal]) => (compared?.proposal === proposal ? compared : null)),
  );
  private readonly subscription = new Subscription();

  constructor() {
    this.subscription.add(
      combineLatest([this.desk.toCompare$, this.bench.piece$])
        .pipe(filter(([arrived, piece]) => !!arrived && arrived.piece === piece?.id))
        .subscribe(([, piece]) => {
          // The document of the piece is there a moment after the piece itself.
          queueMicrotask(() => {
            const arrived = this.desk.take(piece!.id);
            if (arrived) void this.compare(arrived);
          });
        }),
    );
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  async compare({ file, beside }: Pick<ToCompare, 'file' | 'beside'>): Promise<void> {
    const { document } = this.bench;
    try {
      const { report, fits } = await this.compute.run(
        (jobs, progress) => jobs.newArt(document, file, beside, progress),
        { first: `Reading ${file.name}` },
      );
      if (this.bench.document !== document) {
        this.notices.say(
          `${document.name} was changed or left while ${file.name} was compared; compare it again.`,
        );
        return;
      }
      this.propose({ report, fits, title: `${file.name} as new art for ${document.name}.`, goAlong: false });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }

  /** Whether the pivots go along: the proposal follows. */
  letGoAlong(goAlong: boolean): void {
    const compared = this.last$.value;
    if (compared) this.propose({ ...compared, goAlong });
  }

  private propose(compared: Omit<ComparedArt, 'proposal'>): void {
    const { report, title, goAlong } = compared;
    const proposal = this.proposals.propose({
      source: 'new-art',
      title,
      keepLabel: 'Take the new art',
      edit: goAlong ? withPivotsAlong(report) : report.edit,
    });
    this.last$.next({ ...compared, proposal });
  }
}
