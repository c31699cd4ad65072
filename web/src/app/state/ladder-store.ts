import { inject, Injectable, type OnDestroy } from '@angular/core';
import { type Agent, counted, type Edit, replaceProxies, withDistinctIds } from '@yard-brace/core';
import { BehaviorSubject, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import type { LadderRequest } from '../workers/messages';
import { BenchStore } from './bench-store';
import { Notices } from './notices';
import { Proposals } from './proposals';
import { clearanceShapes, rungFigures, type ShownLadder } from './rung-figures';

export type LadderOptions = Omit<LadderRequest, 'clearances' | 'agentDetail'>;

/** Breaking a piece into convex shapes: one run, every count. */
@Injectable()
export class LadderStore implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly shown$ = new BehaviorSubject<ShownLadder | null>(null);
  private readonly busy$ = new BehaviorSubject(false);
  readonly ladder$ = this.shown$.asObservable();
  readonly working$ = this.busy$.asObservable();
  private readonly subscription: Subscription;
  private options: LadderOptions | null = null;

  constructor() {
    // Kept, discarded, or gone because the piece has changed: the ladder has served.
    this.subscription = this.proposals.proposal$.subscribe((proposal) => {
      if (this.shown$.value && proposal?.source !== 'ladder') this.shown$.next(null);
    });
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  get ladder(): ShownLadder | null {
    return this.shown$.value;
  }

  async run(options: LadderOptions, agent: Agent | null): Promise<void> {
    const { document } = this.bench;
    this.busy$.next(true);
    try {
      const request = { ...options, agentDetail: agent?.detail ?? 0, clearances: clearanceShapes(document) };
      const { ladder, now } = await this.compute.run(
        (jobs, progress) => jobs.ladder(document, request, progress),
        { first: 'Breaking into shapes' },
      );
      if (this.bench.document !== document) {
        this.notices.say('The piece was changed while it was broken into shapes; break it again.');
        return;
      }
      this.options = options;
      const at = ladder.goodEnough ?? ladder.rungs.length - 1;
      this.shown$.next({ ...ladder, agent, ofFaces: options.faces !== undefined, now, at });
      this.turnTo(at);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }

  /** Show another rung; the view follows at once. */
  turnTo(at: number): void {
    const ladder = this.shown$.value;
    const rung = ladder?.rungs[at];
    if (!ladder || !rung) return;
    const shown = { ...ladder, at };
    this.shown$.next(shown);
    const shapes = counted(rung.shapes.length, 'shape');
    this.proposals.propose({
      source: 'ladder',
      title: `Broken into ${shapes}.`,
      keepLabel: `Keep ${shapes}`,
      figures: rungFigures(shown, this.bench.document),
      edit: this.editOf(shown),
    });
  }

  private editOf({ rungs, at, ofFaces, agent }: ShownLadder): Edit {
    const kept = ofFaces ? this.bench.document.proxies : [];
    const made = rungs[at]!.shapes.map((shape, i) => ({
      id: `rung-${at + 1}-${kept.length + i + 1}`,
      shape,
    }));
    const { faces: _faces, ...parameters } = this.options!;
    const all = withDistinctIds([...kept, ...made]);
    if (ofFaces) return { kind: 'put-proxies', changed: all.slice(kept.length), removed: [] };
    return {
      ...replaceProxies(all),
      intent: {
        op: 'ladder',
        parts: { by: 'all' },
        parameters: { ...parameters, agent: agent?.id ?? null, shapes: rungs[at]!.shapes.length },
      },
    };
  }
}
