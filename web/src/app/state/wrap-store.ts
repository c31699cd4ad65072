import { inject, Injectable } from '@angular/core';
import { counted, replaceProxies, withDistinctIds } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import type { WrapRequest } from '../workers/messages';
import { BenchStore } from './bench-store';
import { wrapFigures } from './change-figures';
import { Notices } from './notices';
import { Proposals } from './proposals';

const SHAPES = { box: ['box', 'boxes'], hull: ['hull', 'hulls'] } as const;

/** "Wrap the piece in a box", "Wrapped 12 shells in hulls." */
export function wrapText({ kind, per }: Pick<WrapRequest, 'kind' | 'per'>, shells: number): string {
  return per === 'piece' || shells === 1
    ? `the piece in a ${SHAPES[kind][0]}`
    : `${counted(shells, 'shell')} in ${SHAPES[kind][1]}`;
}

/** Boxes or hulls round the piece or each of its shells, without looking for a fit. */
@Injectable()
export class WrapStore {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly busy$ = new BehaviorSubject(false);
  readonly working$ = this.busy$.asObservable();

  async propose(request: WrapRequest): Promise<void> {
    const { document } = this.bench;
    this.busy$.next(true);
    try {
      const { shapes, cutBack } = await this.compute.run(
        (jobs, progress) => jobs.wrapArt(document, request, progress),
        { first: 'Wrapping' },
      );
      if (this.bench.document !== document) {
        this.notices.say('The piece was changed while it was wrapped; wrap it again.');
        return;
      }
      const proxies = withDistinctIds(
        shapes.map((shape, i) => ({ id: `${request.kind}-${request.per}-${i + 1}`, shape })),
      );
      this.proposals.propose({
        source: 'wrap',
        title: `Wrapped ${wrapText(request, document.whole.shells)}.`,
        keepLabel: `Keep ${counted(proxies.length, 'shape')}`,
        figures: wrapFigures(document, proxies, cutBack),
        edit: {
          ...replaceProxies(proxies),
          intent: { op: 'wrap', parts: { by: 'all' }, parameters: { ...request } },
        },
      });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }
}
