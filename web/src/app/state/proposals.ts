import { inject, Injectable, type OnDestroy } from '@angular/core';
import { applyEdit, type Edit, type PieceDocument, type Vec3 } from '@yard-brace/core';
import { BehaviorSubject, Subject, type Subscription } from 'rxjs';
import { BenchStore } from './bench-store';
import { Notices } from './notices';

/** One figure of a proposal, beside what it is now. */
export interface Figure {
  name: string;
  now: string;
  next: string;
  /** within what is wanted */
  good?: boolean;
}

/** A change that was worked out and is not made yet. */
export interface Proposal {
  /** in one sentence */
  title: string;
  edit: Edit;
  /** the piece as it would be */
  preview: PieceDocument;
  figures: readonly Figure[];
  /** what the button that keeps it says */
  keepLabel: string;
  /** the document that it was made from: when that changes, it goes */
  madeFrom: PieceDocument;
  /** who made it, for panels that show more of it */
  source: ProposalSource;
  /** pieces that stand beside and grow along, about the same point */
  beside?: GrowingBeside;
  /** shown while something better is worked out: it is looked at, not kept */
  provisional?: boolean;
}

export interface GrowingBeside {
  pieces: readonly { id: number; name: string }[];
  factor: number;
  about: Vec3;
}

export type ProposalSource =
  'ladder' | 'make' | 'set' | 'operation' | 'size' | 'pivot' | 'new-art' | 'recipe';

export interface ProposalOptions {
  title: string;
  edit: Edit;
  figures?: readonly Figure[];
  keepLabel?: string;
  source: ProposalSource;
  beside?: GrowingBeside;
  provisional?: boolean;
}

/** One proposal at a time, wherever it comes from: shown in the view, then kept or discarded. */
@Injectable()
export class Proposals implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  private readonly now$ = new BehaviorSubject<Proposal | null>(null);
  readonly proposal$ = this.now$.asObservable();
  private readonly keeping$ = new Subject<Proposal>();
  /** proposals that were kept, once the piece has changed */
  readonly kept$ = this.keeping$.asObservable();
  private readonly subscription: Subscription;
  private piece = 0;

  constructor() {
    this.subscription = this.bench.document$.subscribe((document) => {
      const proposal = this.now$.value;
      const samePiece = this.piece === this.bench.piece.id;
      this.piece = this.bench.piece.id;
      if (!proposal || proposal.madeFrom === document) return;
      this.now$.next(null);
      if (samePiece)
        this.notices.say('The piece has changed, so the proposal that was made from it is discarded.');
    });
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  get proposal(): Proposal | null {
    return this.now$.value;
  }

  /** Show a change without making it; another one that is shown is discarded. */
  propose({ keepLabel = 'Keep', figures = [], ...rest }: ProposalOptions): Proposal {
    const madeFrom = this.bench.document;
    const proposal = { ...rest, keepLabel, figures, madeFrom, preview: applyEdit(madeFrom, rest.edit) };
    this.now$.next(proposal);
    return proposal;
  }

  keep(): void {
    const proposal = this.now$.value;
    if (!proposal || proposal.provisional) return;
    this.now$.next(null);
    this.bench.apply(proposal.edit);
    this.keeping$.next(proposal);
  }

  /** True when there was one. */
  discard(): boolean {
    const there = this.now$.value !== null;
    if (there) this.now$.next(null);
    return there;
  }
}
