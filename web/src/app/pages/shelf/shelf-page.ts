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
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { BinEntry, PieceSummary } from '@yard-brace/contract';
import { YardPlaces } from '../../ui/yard-places';
import { targetNames } from '../../ui/target-names';
import { BESIDE_EXTENSIONS, counted, MESH_EXTENSIONS } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Api } from '../../api/api';
import { ImportReports } from '../../state/import-report';
import { Importer } from '../../state/importer';
import { JobsStore } from '../../state/jobs-store';
import { Notices } from '../../state/notices';
import { PiecePictures } from '../../state/piece-pictures';
import { ShelfStore } from '../../state/shelf-store';
import { BinList } from '../../ui/bin-list';
import { Check } from '../../ui/check';
import { DropFiles } from '../../ui/drop-files';
import { FindPiece } from '../../ui/find-piece';
import { Header } from '../../ui/header';
import { SameName } from '../../ui/same-name';
import { Compute } from '../../workers/compute';
import { ChosenBar } from './chosen-bar';
import { ShelfCards } from './shelf-cards';
import { ALL_PIECES, filteredShelf } from './shelf-filter';
import { ShelfTable } from './shelf-table';
import { type ShelfLook, ShelfTools } from './shelf-tools';

const NONE: ReadonlySet<number> = new Set();

/** One yard: every piece with its picture, size, tally and counts. Files can be dropped anywhere. */
@Component({
  selector: 'yb-shelf-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(window:beforeunload)': 'closing($event)' },
  imports: [
    Header,
    FindPiece,
    Button,
    Check,
    RouterLink,
    SameName,
    ShelfTools,
    BinList,
    ChosenBar,
    ShelfCards,
    ShelfTable,
    DropFiles,
    YardPlaces,
  ],
  template: `
    <div class="page" #drop="dropFiles" (ybDropFiles)="import($event)">
      <yb-header [places]="[{ name: 'Yards', link: '/' }, { name: yard()?.name ?? '…' }]">
        <yb-yard-places start [yardId]="yardId()" here="shelf" />
        <yb-find-piece start [pieces]="yard()?.shelf ?? []" />
        @if (yard(); as yard) {
          <span class="faded"
            >For <b class="for">{{ targets(yard) }}</b></span
          >
        }
      </yb-header>
      <yb-same-name (compare)="compareWith($event)" />
      <main>
        <div class="tools">
          <h1>
            Shelf <span class="faded">{{ count() }}</span>
          </h1>
          <yb-shelf-tools
            [filter]="filter()"
            (filterChange)="filter.set($event)"
            [look]="look()"
            (lookChange)="look.set($event)"
          />
          @if (shown().length > 1 && chosen().size < shown().length) {
            <button type="button" class="quiet-button" (click)="chooseShown()">
              Choose all {{ shown().length }}
            </button>
          }
          <div class="more">
            <input
              #files
              type="file"
              multiple
              hidden
              [accept]="accepted"
              (change)="chosenFiles(files)"
              data-testid="file-input"
            />
            <a class="quiet-button" [routerLink]="['/yards', yardId(), 'kit-sheet']">Kit sheet</a>
            @if (bin().length) {
              <button
                type="button"
                class="quiet-button"
                [attr.aria-expanded]="binOpen()"
                (click)="binOpen.set(!binOpen())"
              >
                Bin, {{ bin().length }}
              </button>
            }
            @if (report()) {
              <button type="button" class="quiet-button" (click)="reports.show()">Last import</button>
            }
            <yb-check
              [checked]="asking()"
              (changed)="reports.ask($event)"
              title="Detail levels, shapes that collide and further pieces of a file are taken one by one, before it is stored"
              >choose extras</yb-check
            >
            <p-button label="Import files" icon="pi pi-plus" size="small" (onClick)="files.click()" />
          </div>
        </div>
        <yb-chosen-bar [pieces]="chosenPieces()" (none)="chosen.set(none)" (working)="working.set($event)" />
        @if (binOpen() && bin().length) {
          <yb-bin-list of="pieces" [entries]="bin()" (changed)="putBack()" />
        }
        <div class="shelf">
          @if (shown().length) {
            @if (look() === 'cards') {
              <yb-shelf-cards [pieces]="shown()" [chosen]="chosen()" (choose)="choose($event)" />
            } @else {
              <yb-shelf-table [pieces]="shown()" [chosen]="chosen()" (choose)="choose($event)" />
            }
          } @else if (yard()) {
            <p class="empty">{{ emptyText() }}</p>
          }
        </div>
      </main>
      @if (drop.over()) {
        <div class="drop-over" aria-hidden="true">Let go to import the files into {{ yard()?.name }}</div>
      }
    </div>
  `,
  styleUrl: './shelf-page.css',
})
export class ShelfPage {
  private readonly api = inject(Api);
  private readonly store = inject(ShelfStore);
  private readonly importer = inject(Importer);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly compute = inject(Compute);
  protected readonly reports = inject(ImportReports);
  readonly yardId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.store.yard$, { initialValue: null });
  protected readonly report = toSignal(this.reports.report$, { requireSync: true });
  protected readonly asking = toSignal(this.reports.asking$, { requireSync: true });
  protected readonly filter = signal(ALL_PIECES);
  protected readonly look = signal<ShelfLook>('cards');
  protected readonly none = NONE;
  protected readonly targets = targetNames;
  protected readonly chosen = signal(NONE);
  protected readonly working = signal(false);
  /** what was removed from the yard and can be put back */
  protected readonly bin = signal<readonly BinEntry[]>([]);
  protected readonly binOpen = signal(false);
  protected readonly accepted = [...MESH_EXTENSIONS, ...BESIDE_EXTENSIONS]
    .map((extension) => `.${extension}`)
    .join();
  private readonly pieceCount = computed(() => this.yard()?.pieces ?? null);
  private readonly all = computed(() => this.yard()?.shelf ?? []);
  protected readonly shown = computed(() => filteredShelf(this.all(), this.filter()));
  protected readonly chosenPieces = computed(() => this.all().filter(({ id }) => this.chosen().has(id)));
  protected readonly count = computed(() => {
    const [shown, all] = [this.shown().length, this.all().length];
    return shown === all ? counted(all, 'piece') : `${shown} of ${counted(all, 'piece')}`;
  });
  protected readonly emptyText = computed(() => {
    if (this.all().length) return 'No piece is like that; change the filter to see others.';
    return this.report()?.running
      ? 'The files are being read; each piece appears here as soon as it is there.'
      : 'The shelf is empty. Drop OBJ, glTF, COLLADA, STL or PLY files or whole folders anywhere on this page, with their material libraries and pictures. Each becomes a piece: click its name and its job card leads from intake to delivery, step by step. What was done to one can then be done to all, as a recipe; the guide in the header explains each step.';
  });
  private left = false;

  constructor() {
    // Pictures are taken as long as the application is open.
    inject(PiecePictures);
    inject(DestroyRef).onDestroy(() => (this.left = true));
    // What a job made of pieces is seen when it is at its end, and what it brings in as it comes.
    inject(JobsStore)
      .moved$.pipe(takeUntilDestroyed())
      .subscribe(() => void this.store.load(this.yardId()).catch(() => undefined));
    effect(() => {
      // As often as pieces come and go.
      if (this.pieceCount() === null) return;
      this.api.bin(this.yardId()).then(
        (bin) => this.bin.set(bin),
        () => undefined,
      );
    });
    effect(() => {
      this.store.load(this.yardId()).catch((error) => this.notices.error(error));
    });
  }

  protected chosenFiles(input: HTMLInputElement): void {
    const files = [...(input.files ?? [])];
    input.value = '';
    void this.import(files);
  }

  protected compareWith(piece: number): void {
    void this.router.navigate(['/pieces', piece]);
  }

  /** One file goes straight to the bench, unless the person went elsewhere meanwhile; several stay on the shelf. */
  protected async import(files: File[]): Promise<void> {
    const added = await this.importer.import(this.yardId(), files);
    if (added.length === 1 && !this.left) await this.router.navigate(['/pieces', added[0]]);
  }

  protected choose({ id }: PieceSummary): void {
    const next = new Set(this.chosen());
    if (!next.delete(id)) next.add(id);
    this.chosen.set(next);
  }

  protected async putBack(): Promise<void> {
    await this.store.load(this.yardId()).catch((error: unknown) => this.notices.error(error));
  }

  protected chooseShown(): void {
    this.chosen.set(new Set(this.shown().map(({ id }) => id)));
  }

  protected closing(event: BeforeUnloadEvent): void {
    if (this.compute.task?.stop || this.working()) event.preventDefault();
  }
}
