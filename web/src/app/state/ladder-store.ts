import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  type Agent,
  type Area,
  areaFaces,
  areaWith,
  counted,
  type Edit,
  type PieceDocument,
  replaceProxies,
  type Shape,
  withDistinctIds,
} from '@yard-brace/core';
import { BehaviorSubject, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import type { LadderRequest } from '../workers/messages';
import { BenchStore } from './bench-store';
import { Clock } from './clock';
import { Notices } from './notices';
import { Proposals } from './proposals';
import { clearanceShapes, rungFigures, type ShownLadder } from './rung-figures';
import { Selection } from './selection';

export type LadderOptions = Omit<LadderRequest, 'clearances' | 'agentDetail' | 'area'>;

/** What a person sets for a run; it stays while the bench is open, whatever step or piece is looked at. */
export interface LadderInputs extends Omit<LadderOptions, 'faces'> {
  /** id of who collides; null for full detail, undefined while nobody has chosen */
  agent?: string | null;
}

const HEAD_START_MS = 250;

/** A few sets that are shown while the ladder is worked out, and which of them. */
export interface FirstLook {
  sets: readonly (readonly Shape[])[];
  agent: Agent | null;
  at: number;
}

/** Breaking a piece into convex shapes: one run, every count. */
@Injectable()
export class LadderStore implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly selection = inject(Selection);
  private readonly clock = inject(Clock);
  private readonly shown$ = new BehaviorSubject<ShownLadder | null>(null);
  private readonly look$ = new BehaviorSubject<FirstLook | null>(null);
  private readonly busy$ = new BehaviorSubject(false);
  private readonly set$ = new BehaviorSubject<LadderInputs>({
    maxShapes: 32,
    maxVertices: 32,
    primitives: true,
    mayCross: true,
  });
  readonly inputs$ = this.set$.asObservable();
  readonly ladder$ = this.shown$.asObservable();
  readonly firstLook$ = this.look$.asObservable();
  readonly working$ = this.busy$.asObservable();
  private readonly subscription: Subscription;
  private options: LadderOptions | null = null;
  /** what was asked last: a look that comes later than the next run is not shown */
  private asked: LadderRequest | null = null;
  /** the area that was run; null for all the art */
  private area: Area | null = null;

  constructor() {
    // Kept, discarded, or gone because the piece has changed: the ladder has served.
    this.subscription = this.proposals.proposal$.subscribe((proposal) => {
      if (proposal?.source === 'ladder') return;
      if (this.shown$.value) this.shown$.next(null);
      if (this.look$.value) this.look$.next(null);
    });
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  get ladder(): ShownLadder | null {
    return this.shown$.value;
  }

  /** Corners of a hull at most: as the person set them, and no more than the target takes. */
  get maxCorners(): number {
    return Math.min(this.set$.value.maxVertices, this.bench.profile.solids.maxHullVertices);
  }

  setInputs(change: Partial<LadderInputs>): void {
    this.set$.next({ ...this.set$.value, ...change });
  }

  async run(options: LadderOptions, agent: Agent | null): Promise<void> {
    const { document } = this.bench;
    const area = options.faces ? this.areaOf(options, agent) : null;
    this.busy$.next(true);
    try {
      const request = {
        ...options,
        ...(area ? { area: area.id } : {}),
        agentDetail: agent?.detail ?? 0,
        clearances: clearanceShapes(document),
      };
      this.asked = request;
      // On few cores both together would be late: the look has a head start.
      await Promise.race([
        this.lookFirst(document, request, { options, area, agent }),
        new Promise<void>((resolve) => this.clock.after(HEAD_START_MS, resolve)),
      ]);
      const { ladder, now, whole } = await this.compute.run(
        (jobs, progress) => jobs.ladder(document, this.bench.profile, request, progress),
        { first: 'Breaking into shapes' },
      );
      if (this.bench.document !== document) {
        this.notices.say('The piece was changed while it was broken into shapes; break it again.');
        return;
      }
      this.look$.next(null);
      this.options = options;
      this.area = area;
      const at = ladder.goodEnough ?? ladder.rungs.length - 1;
      this.shown$.next({ ...ladder, agent, now, whole: whole ?? null, at });
      this.turnTo(at);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      // Stopped, or failed: what was only a look goes.
      if (this.look$.value) this.proposals.discard();
      this.busy$.next(false);
    }
  }

  /** Something at once: as long as the ladder is not there, a few sets that are not measured. */
  private async lookFirst(
    document: PieceDocument,
    request: LadderRequest,
    { options, area, agent }: { options: LadderOptions; area: Area | null; agent: Agent | null },
  ): Promise<void> {
    let sets: Shape[][];
    try {
      sets = await this.compute.run((jobs) => jobs.firstLook(document, request), {
        quick: true,
        silent: true,
      });
    } catch {
      // What is wrong with the art is said by the run itself.
      return;
    }
    if (!sets.length || !this.busy$.value || this.asked !== request) return;
    if (this.bench.document !== document) return;
    this.options = options;
    this.area = area;
    this.shown$.next(null);
    this.look$.next({ sets, agent, at: 0 });
    this.turnLookTo(sets.length - 1);
  }

  /** Show another set of the first look. */
  turnLookTo(at: number): void {
    const look = this.look$.value;
    const set = look?.sets[at];
    if (!look || !set) return;
    this.look$.next({ ...look, at });
    const shapes = counted(set.length, 'shape');
    this.proposals.propose({
      source: 'ladder',
      title: `A first look: ${shapes}, not measured yet.`,
      provisional: true,
      edit: this.editOf(set, at, look.agent),
    });
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
      edit: this.editOf(rung.shapes, at, ladder.agent),
    });
  }

  /** The area of the chosen faces: the one that was run before, or a new one. */
  private areaOf({ maxShapes, maxVertices, primitives, mayCross }: LadderOptions, agent: Agent | null): Area {
    const { document } = this.bench;
    const faces = areaFaces(document, this.selection.facesByPart());
    const { id, known } = areaWith(document, faces);
    const name = known?.name ?? `area ${document.areas.length + 1}`;
    return { id, name, faces, agent: agent?.id ?? null, maxShapes, maxVertices, primitives, mayCross };
  }

  private editOf(shapes: readonly Shape[], at: number, agent: Agent | null): Edit {
    const { document } = this.bench;
    const { area } = this;
    const kept = area ? document.proxies.filter((proxy) => proxy.area !== area.id) : [];
    const part = area?.faces.length === 1 && document.nodes.length > 1 ? area.faces[0]!.part : undefined;
    const made = shapes.map((shape, i) => ({
      id: `${area?.id ?? 'rung'}-${at + 1}-${i + 1}`,
      shape,
      ...(area ? { area: area.id } : {}),
      ...(part === undefined ? {} : { part }),
    }));
    const all = withDistinctIds([...kept, ...made]);
    if (area) {
      const removed = document.proxies.flatMap(({ id, area: of }) => (of === area.id ? [id] : []));
      return { kind: 'put-proxies', changed: all.slice(kept.length), removed, area };
    }
    const { faces: _faces, ...parameters } = this.options!;
    return {
      ...replaceProxies(all),
      intent: {
        op: 'ladder',
        parts: { by: 'all' },
        parameters: {
          ...parameters,
          agent: agent?.id ?? null,
          shapes: at === this.shown$.value?.goodEnough ? 'good-enough' : shapes.length,
        },
      },
    };
  }
}
