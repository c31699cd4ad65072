import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  numberAttribute,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import {
  artBounds,
  artKey,
  artNodes,
  currentDocument,
  distance,
  partPivot,
  passageOf,
  type PieceDocument,
  shapeBounds,
  sizeOf,
  type Vec3,
} from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Splitter } from 'primeng/splitter';
import { Api, ApiError } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { DropFiles } from '../shelf/drop-files';
import { SameName } from '../shelf/same-name';
import { ShelfStore } from '../shelf/shelf-store';
import { areaText, counted, lengthText, momentText, placeText, sizeText } from '../shell/figures';
import { FindPiece } from '../shell/find-piece';
import { Header } from '../shell/header';
import { Notices } from '../shell/notices';
import { isTyping } from '../shell/keys';
import { sentenceOf } from '../shell/told';
import { type ArtOfPiece, PieceView } from '../view/piece-view';
import { type MarksToDraw, NO_MARKS } from '../view/marks';
import { ViewState } from '../view/view-state';
import type { Hit, Label, NumberedShape } from '../view/yard-view';
import { BenchStore, type Saving } from './bench-store';
import { ChangeBar } from './change-bar';
import { DeviationStore } from './deviation-store';
import { JobCard } from './job-card';
import { LadderStore } from './ladder-store';
import type { Leavable } from './leave-bench';
import { OlderVersions } from './older-versions';
import { Operations } from './operations';
import { ProxyMeasure } from './proxy-measure';
import { Strip } from './strip';

/** One piece on the bench: the strip, the view, the job card. */
@Component({
  selector: 'yb-bench-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Header,
    FindPiece,
    Button,
    Splitter,
    PieceView,
    JobCard,
    Strip,
    DropFiles,
    ChangeBar,
    SameName,
    OlderVersions,
  ],
  providers: [BenchStore, ViewState, Operations, LadderStore, DeviationStore, ProxyMeasure],
  host: { '(document:keydown)': 'key($event)', '(window:beforeunload)': 'closing($event)' },
  template: `
    <div class="page" #drop="dropFiles" (ybDropFiles)="bringIn($event)">
      <yb-header [places]="places()">
        <yb-find-piece start [pieces]="yard()?.shelf ?? []" />
        <span class="undo">
          <button
            type="button"
            class="quiet-button"
            [disabled]="!undoable()"
            [title]="undoable() ? 'Undo ' + undoable() + ' (Ctrl Z)' : 'Nothing to undo'"
            (click)="store.undo()"
            data-testid="undo"
          >
            <span class="pi pi-undo"></span><span class="sr-only">Undo {{ undoable() }}</span>
          </button>
          <button
            type="button"
            class="quiet-button"
            [disabled]="!redoable()"
            [title]="redoable() ? 'Redo ' + redoable() + ' (Ctrl Shift Z)' : 'Nothing to redo'"
            (click)="store.redo()"
            data-testid="redo"
          >
            <span class="pi pi-undo flip"></span><span class="sr-only">Redo {{ redoable() }}</span>
          </button>
        </span>
        <span
          class="saving"
          [class.bad]="saving().state === 'waiting' || saving().state === 'refused'"
          role="status"
          data-testid="saving"
          [title]="why()"
          >{{ savingText() }}</span
        >
        <span class="faded"
          >For <b class="for">{{ piece()?.yard?.rules?.target?.replaceAll('-', ' ') }}</b></span
        >
      </yb-header>
      @if (conflict(); as other) {
        <section class="conflict" role="alert" data-testid="conflict">
          <span
            >{{ other.message }}
            <span class="faded">The other one was saved {{ momentText(other.savedAt) }}.</span></span
          >
          <p-button label="Take theirs over" size="small" [outlined]="true" (onClick)="takeTheirs()" />
          <p-button label="Keep mine as a copy" size="small" (onClick)="keepMine()" />
        </section>
      }
      @if (saving().state === 'waiting' || saving().state === 'refused') {
        <section class="conflict" role="alert" data-testid="unsaved">{{ why() }}</section>
      }
      <yb-same-name (compare)="compareWith($event)" />
      @if (missing()) {
        <div>
          <p class="missing">{{ missing() }}</p>
          @if (broken()) {
            <yb-older-versions [piece]="pieceId()" (restored)="open(pieceId())" />
          }
        </div>
      } @else {
        <p-splitter
          [panelSizes]="[11.7, 60.2, 28.1]"
          [minSizes]="[8, 30, 24]"
          [gutterSize]="3"
          [style]="{ height: '100%', minHeight: 0, border: 0, borderRadius: 0 }"
          stateKey="yard-brace.bench"
          stateStorage="local"
        >
          <ng-template #panel><yb-strip [pieces]="yard()?.shelf ?? []" [current]="pieceId()" /></ng-template>
          <ng-template #panel>
            <div class="middle">
              <yb-piece-view
                [art]="art()"
                [shapes]="shapes()"
                [proposed]="!!proposal()"
                [others]="others()"
                [pivot]="shown()?.pivot ?? null"
                [hinge]="hinge()"
                [marks]="marks()"
                [labels]="labels()"
                [agents]="piece()?.yard?.rules?.agents ?? []"
                [deviation]="deviation()"
                [lit]="lit()"
                [gridMetres]="piece()?.yard?.rules?.gridMetres ?? 4"
                [waiting]="waiting()"
                (point)="store.lit$.next($event)"
                (hit)="hit.set($event)"
                (markedOut)="operations.chooseMarked($event)"
                (border)="operations.chooseRun($event.face, $event.at, $event.how)"
              >
                <yb-change-bar />
              </yb-piece-view>
              <footer aria-live="off" data-testid="reading-line">
                @for (part of reading(); track $index) {
                  <span [class.figures]="part.figures">{{ part.text }}</span>
                }
                <span class="gap"></span>
                <span class="faded">{{ standing() }}</span>
                <span
                  >grid <span class="figures">{{ piece()?.yard?.rules?.gridMetres ?? 4 }} m</span></span
                >
              </footer>
            </div>
          </ng-template>
          <ng-template #panel><yb-job-card /></ng-template>
        </p-splitter>
      }
      @if (drop.over()) {
        <div class="drop-over" aria-hidden="true">
          Let go to bring the files in to {{ piece()?.yard?.name }}
        </div>
      }
    </div>
  `,
  styleUrl: './bench-page.css',
})
export class BenchPage implements Leavable {
  protected readonly store = inject(BenchStore);
  protected readonly operations = inject(Operations);
  private readonly view = inject(ViewState);
  private readonly shelf = inject(ShelfStore);
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  readonly pieceId = input.required({ transform: numberAttribute });

  protected readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly piece = toSignal(this.store.piece$, { initialValue: null });
  protected readonly document = toSignal(this.store.document$);
  private readonly change = toSignal(this.store.change$, { requireSync: true });
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly chosen = toSignal(this.view.chosen$, { requireSync: true });
  private readonly tapes = toSignal(this.view.tapes$, { requireSync: true });
  private readonly points = toSignal(this.view.points$, { requireSync: true });
  private readonly swing = toSignal(this.view.swing$, { requireSync: true });
  private readonly beside = toSignal(this.store.beside$, { requireSync: true });
  protected readonly proposal = toSignal(this.store.proposal$, { initialValue: null });
  protected readonly lit = toSignal(this.store.lit$, { initialValue: null });
  protected readonly deviation = toSignal(inject(DeviationStore).deviation$, { requireSync: true });
  protected readonly saving = toSignal(this.store.saving$, { initialValue: { state: 'saving' } as Saving });
  private readonly lastDelivery = toSignal(this.store.delivered$);
  protected readonly undoable = toSignal(this.store.undoable$);
  protected readonly redoable = toSignal(this.store.redoable$);
  protected readonly art = signal<ArtOfPiece | null>(null);
  protected readonly others = signal<readonly ArtOfPiece[]>([]);
  /** the piece as it is, or as a change that is proposed would make it */
  protected readonly shown = computed(() => this.change()?.document ?? this.document());
  protected readonly waiting = signal('');
  protected readonly missing = signal('');
  protected readonly broken = signal(false);
  protected readonly hit = signal<Hit>(null);
  protected readonly momentText = momentText;

  protected readonly places = computed(() => {
    const piece = this.piece();
    return [
      { name: piece?.yard.name ?? '…', link: piece ? `/yards/${piece.yard.id}` : '/' },
      { name: this.document()?.name ?? '…' },
    ];
  });
  protected readonly shapes = computed((): NumberedShape[] => {
    const proxies = this.proposal()?.proxies ?? this.shown()?.proxies ?? [];
    return proxies.map(({ id, shape }, i) => ({ id, number: i + 1, shape }));
  });
  protected readonly conflict = computed(() => {
    const saving = this.saving();
    return saving.state === 'conflict' ? saving.with : null;
  });
  protected readonly savingText = computed(() => SAVING[this.saving().state](this.saving()));
  protected readonly why = computed(() => {
    const saving = this.saving();
    if (saving.state === 'waiting')
      return saving.kept
        ? `${saving.why} Your work is kept in this browser and is saved as soon as it is back.`
        : `${saving.why} Your work is too large for the browser’s own store and is only in this window: leave it open until it is saved.`;
    return saving.state === 'refused' ? `The last change could not be saved: ${saving.why}` : '';
  });

  /** What is under the pointer, or the piece as a whole. */
  protected readonly reading = computed((): { text: string; figures?: boolean }[] => {
    const hit = this.hit();
    const chosen = this.chosen();
    if (chosen && !(hit && 'art' in hit))
      return [
        { text: counted(chosen.count, 'face') + ' chosen' },
        { text: `${sizeText(sizeOf(chosen))}, ${areaText(chosen.area)}`, figures: true },
      ];
    const lit = this.shapes().find(({ id }) => id === this.lit());
    if (lit) {
      const { shape } = lit;
      const size =
        shape.kind === 'box' ? shape.halfExtents.map((half) => half * 2) : sizeOf(shapeBounds(shape));
      return [{ text: `Shape ${lit.number}, ${shape.kind}` }, { text: sizeText(size), figures: true }];
    }
    if (hit && 'art' in hit) {
      const material = this.shown()?.materials[hit.art.material]?.name;
      const part = this.art()?.document.nodes[hit.art.part]?.name;
      return [
        { text: [part ?? 'Art', material].filter(Boolean).join(', ') },
        { text: placeText(hit.art.at), figures: true },
        ...(chosen
          ? [{ text: `${counted(chosen.count, 'face')} chosen, ${sizeText(sizeOf(chosen))}`, figures: true }]
          : []),
      ];
    }
    return [{ text: 'Nothing under the pointer' }];
  });
  protected readonly standing = computed(() => {
    const document = this.shown();
    return document
      ? `${counted(document.whole.triangles, 'triangle')}, ${counted(this.shapes().length, 'shape')}`
      : '';
  });

  /** The art is drawn anew only when what it is made of changes: meshes, nodes, unit. */
  private readonly drawn = computed<Drawn | null>(
    () => {
      const document = this.shown();
      const piece = this.piece();
      return document && piece ? { document, key: `${piece.id} ${artKey(document)}`, piece: piece.id } : null;
    },
    { equal: (a, b) => a?.key === b?.key },
  );

  private readonly yardId = computed(() => this.piece()?.yard.id);
  private left = false;
  private drawnPiece = 0;
  /** the hinge that is tried */
  protected readonly hinge = computed(() => {
    const [swing, document] = [this.swing(), this.document()];
    if (!swing || !document) return null;
    const i = document.nodes.findIndex((node) => node.id === swing.part);
    return i < 0 ? document.pivot : partPivot(document, i);
  });
  protected readonly marks = computed((): MarksToDraw => {
    const document = this.shown();
    if (!document) return NO_MARKS;
    const agents = this.piece()?.yard.rules.agents ?? [];
    const hinged = artNodes(document.nodes).flatMap((i) => {
      const pivot = partPivot(document, i);
      return pivot.hinge ? [{ pivot, i }] : [];
    });
    const reach = Math.max(...sizeOf(artBounds(document))) * 0.6;
    const hinge = document.pivot.hinge ? document.pivot : hinged[0]?.pivot;
    return {
      pivots: this.settings().pivots
        ? artNodes(document.nodes).map((i) => ({ pivot: partPivot(document, i), lit: false }))
        : [],
      hinge: hinge?.hinge ? { at: hinge.position, axis: hinge.hinge.axis, reach } : null,
      tapes: this.tapes(),
      points: this.points(),
      clearances: document.clearances.map((clearance) => ({
        ...clearance,
        passes: agents.some((agent) => passageOf(clearance, agent).passes),
      })),
    };
  });
  /** What is written on the piece: tapes, its own sides, names of clearances. */
  protected readonly labels = computed((): Label[] => {
    const document = this.shown();
    if (!document) return [];
    const middle = (a: Vec3, b: Vec3): Vec3 => a.map((v, k) => (v + b[k]!) / 2) as Vec3;
    const labels: Label[] = this.tapes().map(([a, b]) => ({
      text: lengthText(distance(a, b)),
      at: middle(a, b),
    }));
    for (const { name, center } of document.clearances) labels.push({ text: name, at: center });
    if (this.settings().dimensions) {
      const { min, max } = artBounds(document);
      const size = sizeOf({ min, max });
      labels.push(
        { text: lengthText(size[0]), at: [(min[0] + max[0]) / 2, min[1], max[2]] },
        { text: lengthText(size[1]), at: [max[0], (min[1] + max[1]) / 2, max[2]] },
        { text: lengthText(size[2]), at: [max[0], min[1], (min[2] + max[2]) / 2] },
      );
    }
    return labels;
  });

  constructor() {
    inject(ProxyMeasure);
    inject(DestroyRef).onDestroy(() => (this.left = true));
    effect(() => {
      const id = this.pieceId();
      untracked(() => void this.open(id));
    });
    effect(() => {
      const drawn = this.drawn();
      if (drawn) untracked(() => void this.drawArt(drawn));
    });
    effect(() => {
      const beside = this.beside();
      untracked(() => void this.showBeside(beside));
    });
    effect(() => {
      // What is saved comes with what the shelf shows of it; only a yard that was just opened, or a delivery, asks for all.
      const yardId = this.yardId();
      this.lastDelivery();
      if (yardId) untracked(() => void this.shelf.load(yardId).catch(() => undefined));
    });
    effect(() => {
      const name = this.document()?.name;
      if (name) globalThis.document.title = `${name} · Yard Brace`;
    });
  }

  async mayLeave(): Promise<boolean> {
    if (this.store.unsaved) await this.store.settled().catch(() => undefined);
    return (
      !this.store.unsaved ||
      confirm(
        'The last change is not saved. It is kept in this browser and comes back when you open the piece again. Leave now?',
      )
    );
  }

  protected closing(event: BeforeUnloadEvent): void {
    if (this.store.unsaved || this.compute.task$.value?.stoppable) event.preventDefault();
  }

  /** A file dropped here comes to the bench, unless the person turned to another piece meanwhile. */
  protected async bringIn(files: File[]): Promise<void> {
    const from = this.piece();
    if (!from) return;
    const added = await this.shelf.bringIn(from.yard.id, files);
    if (added.length === 1 && !this.left && this.piece()?.id === from.id)
      await this.router.navigate(['/pieces', added[0]]);
  }

  private async showBeside(id: number | null): Promise<void> {
    this.others.set([]);
    if (id === null) return;
    try {
      const document = currentDocument((await this.api.piece(id)).history);
      const art = await this.compute.run((worker, progress) => worker.draw(document, progress), {
        first: `Drawing ${document.name}`,
        quick: true,
      });
      if (this.beside() === id) this.others.set([{ art, document }]);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }

  /** New art for a piece: the bench turns to it, and its intake step says what would change. */
  protected async compareWith({ piece }: { piece: number }): Promise<void> {
    if (this.pieceId() !== piece) await this.router.navigate(['/pieces', piece]);
  }

  protected async takeTheirs(): Promise<void> {
    await this.store.takeTheirs().catch((error) => this.notices.error(error));
  }

  protected async keepMine(): Promise<void> {
    try {
      const copy = await this.store.keepMineAsCopy();
      await this.router.navigate(['/pieces', copy]);
    } catch (error) {
      this.notices.error(error);
    }
  }

  protected key(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey) || isTyping(event)) return;
    const key = event.key.toLowerCase();
    if (key === 'z' && !event.shiftKey) this.store.undo();
    else if (key === 'y' || (key === 'z' && event.shiftKey)) this.store.redo();
    else return;
    event.preventDefault();
  }

  protected async open(id: number): Promise<void> {
    this.missing.set('');
    this.broken.set(false);
    this.art.set(null);
    try {
      await this.store.open(id);
    } catch (error) {
      if (this.pieceId() !== id) return;
      this.missing.set(sentenceOf(error));
      this.broken.set(error instanceof ApiError && error.code === 'broken');
    }
  }

  private async drawArt({ document, key, piece }: Drawn): Promise<void> {
    // The same piece changed: what is there stays until the new art is ready, and the view stays where it is.
    const stay = this.drawnPiece === piece;
    if (!stay) {
      this.art.set(null);
      this.view.newPiece();
    }
    this.waiting.set(`Drawing ${document.name} …`);
    try {
      const art = await this.compute.run((worker, progress) => worker.draw(document, progress), {
        first: `Drawing ${document.name}`,
        quick: true,
      });
      if (this.drawn()?.key !== key) return;
      this.drawnPiece = piece;
      this.view.newArt({ art, document });
      this.art.set({ art, document, stay });
    } catch (error) {
      if (this.drawn()?.key === key) this.waiting.set(sentenceOf(error));
    }
  }
}

/** What the drawn art depends on. */
interface Drawn {
  document: PieceDocument;
  key: string;
  piece: number;
}

const SAVING: { [S in Saving['state']]: (saving: Saving) => string } = {
  saved: (saving) => (saving.state === 'saved' ? `Saved ${momentText(saving.at)}` : ''),
  saving: () => 'Saving …',
  waiting: () => 'Not saved',
  conflict: () => 'Not saved',
  refused: () => 'Not saved',
};
