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
import { Splitter } from 'primeng/splitter';
import { ApiError } from '../../api/api';
import { sentenceOf } from '../../api/told';
import { ArtStore } from '../../state/art-store';
import { BenchStore } from '../../state/bench-store';
import { BENCH_STORES } from '../../state/bench-stores';
import { ImportReports } from '../../state/import-report';
import { Importer } from '../../state/importer';
import { NewArtStore } from '../../state/new-art-store';
import { ProxyMeasure } from '../../state/proxy-measure';
import { SetGrowth } from '../../state/set-growth';
import { ShelfStore } from '../../state/shelf-store';
import { ViewSettingsStore } from '../../state/view-settings';
import { Ask } from '../../ui/ask';
import { DropFiles } from '../../ui/drop-files';
import { FindPiece } from '../../ui/find-piece';
import { Gutters } from '../../ui/gutters';
import { type Crumb, Header } from '../../ui/header';
import { JobsLine } from '../../ui/jobs-line';
import { SameName } from '../../ui/same-name';
import { Compute } from '../../workers/compute';
import type { FaceHit } from '../../viewport/layers/art-layer';
import { BenchBar } from './bench-bar';
import { JobCard } from './job-card';
import type { Leavable } from '../../ui/leave-saved';
import { OlderVersions } from './older-versions';
import { ReadingLine } from './reading-line';
import { RecipesCard } from './recipes-card';
import { RecipeKeys } from './recipe-keys';
import { SaveNotice } from '../../ui/save-notice';
import { Strip } from './strip';
import { BeforeView } from './view/before-view';
import { BenchView } from './view/bench-view';

/** One piece on the bench: the strip, the view, the job card. */
@Component({
  selector: 'yb-bench-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Header,
    FindPiece,
    JobsLine,
    BenchBar,
    SaveNotice,
    SameName,
    OlderVersions,
    Splitter,
    Gutters,
    Strip,
    BenchView,
    BeforeView,
    ReadingLine,
    JobCard,
    RecipesCard,
    DropFiles,
  ],
  providers: [...BENCH_STORES, RecipeKeys],
  host: { '(window:beforeunload)': 'closing($event)' },
  template: `
    <div class="page" #drop="dropFiles" (ybDropFiles)="import($event)">
      <yb-header [places]="places()">
        @if (piece(); as piece) {
          <yb-jobs-line start [yardId]="piece.yard.id" />
        }
        <yb-find-piece start [pieces]="yard()?.shelf ?? []" />
        <yb-bench-bar [recipes]="recipes()" (recipesChange)="recipes.set($event)" />
      </yb-header>
      <yb-save-notice />
      <yb-same-name (compare)="compareWith($event)" />
      <main>
        <h1 class="sr-only">{{ document()?.name ?? 'Bench' }}</h1>
        @if (missing()) {
          <p class="missing">{{ missing() }}</p>
          @if (broken()) {
            <yb-older-versions [piece]="pieceId()" (restored)="open(pieceId())" />
          }
        } @else {
          <p-splitter
            [panelSizes]="[11.7, 60.2, 28.1]"
            [minSizes]="[8, 30, 24]"
            [gutterSize]="5"
            [style]="{ height: '100%', minHeight: 0, border: 0, borderRadius: 0 }"
            stateKey="yard-brace.bench"
            stateStorage="local"
            [ybGutters]="['Width of the shelf', 'Width of the view']"
          >
            <ng-template #panel
              ><yb-strip [pieces]="yard()?.shelf ?? []" [current]="pieceId()"
            /></ng-template>
            <ng-template #panel>
              <div class="middle">
                <div class="views" [class.two]="beside()">
                  @if (beside()) {
                    <yb-before-view [beside]="view.scene()" />
                  }
                  <yb-bench-view #view (hit)="hit.set($event)" />
                </div>
                <yb-reading-line [hit]="hit()" />
              </div>
            </ng-template>
            <ng-template #panel>
              @if (recipes()) {
                <yb-recipes-card (closed)="recipes.set(false)" />
              }
              <!-- It stays as it was left while recipes are looked at. -->
              <yb-job-card [hidden]="recipes()" />
            </ng-template>
          </p-splitter>
        }
      </main>
      @if (drop.over()) {
        <div class="drop-over" aria-hidden="true">
          Let go to import the files into {{ piece()?.yard?.name }}
        </div>
      }
    </div>
  `,
  styleUrl: './bench-page.css',
})
export class BenchPage implements Leavable {
  private readonly bench = inject(BenchStore);
  private readonly shelf = inject(ShelfStore);
  private readonly importer = inject(Importer);
  private readonly compute = inject(Compute);
  private readonly router = inject(Router);
  private readonly ask = inject(Ask);
  readonly pieceId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly piece = toSignal(this.bench.piece$, { initialValue: null });
  protected readonly document = toSignal(this.bench.document$);
  private readonly lastDelivery = toSignal(this.bench.delivered$);
  private readonly before = toSignal(inject(ArtStore).before$, { requireSync: true });
  private readonly settings = toSignal(inject(ViewSettingsStore).settings$, { requireSync: true });
  /** what a proposal changes is seen as it is, too */
  protected readonly beside = computed(() => this.settings().asItIs && this.before() !== null);
  protected readonly hit = signal<FaceHit | null>(null);
  /** whether recipes stand in the place of the job card */
  protected readonly recipes = signal(false);
  protected readonly missing = signal('');
  protected readonly broken = signal(false);
  private left = false;

  protected readonly places = computed((): Crumb[] => {
    const piece = this.piece();
    return [
      { name: piece?.yard.name ?? '…', link: piece ? `/yards/${piece.yard.id}` : '/' },
      { name: this.document()?.name ?? '…' },
    ];
  });
  private readonly yardId = computed(() => this.piece()?.yard.id);

  constructor() {
    inject(ImportReports).fold();
    // They work by themselves as long as the bench is open.
    inject(ProxyMeasure);
    inject(NewArtStore);
    inject(SetGrowth);
    inject(RecipeKeys);
    inject(DestroyRef).onDestroy(() => (this.left = true));
    effect(() => {
      const id = this.pieceId();
      untracked(() => void this.open(id));
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
    if (this.bench.unsaved) await this.bench.settled().catch(() => undefined);
    if (!this.bench.unsaved) return true;
    return this.ask.ask({
      title: 'The last change is not saved',
      text: 'It is kept in this browser and comes back when you open the piece again.',
      accept: 'Leave now',
      reject: 'Stay',
    });
  }

  protected closing(event: BeforeUnloadEvent): void {
    if (this.bench.unsaved || this.compute.task?.stop) event.preventDefault();
  }

  /** A file dropped here comes to the bench, unless the person turned to another piece meanwhile. */
  protected async import(files: File[]): Promise<void> {
    const from = this.piece();
    if (!from) return;
    const added = await this.importer.import(from.yard.id, files);
    if (added.length === 1 && !this.left && this.piece()?.id === from.id)
      await this.router.navigate(['/pieces', added[0]]);
  }

  /** New art for a piece: the bench turns to it, and its intake step says what would change. */
  protected async compareWith(piece: number): Promise<void> {
    if (this.pieceId() !== piece) await this.router.navigate(['/pieces', piece]);
  }

  protected async open(id: number): Promise<void> {
    this.missing.set('');
    this.broken.set(false);
    try {
      await this.bench.open(id);
    } catch (error) {
      if (this.pieceId() !== id) return;
      this.missing.set(sentenceOf(error));
      this.broken.set(error instanceof ApiError && error.code === 'broken');
    }
  }
}
