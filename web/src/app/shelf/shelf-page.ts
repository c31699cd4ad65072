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
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { PieceSummary } from '@yard-brace/contract';
import { BESIDE_EXTENSIONS, MESH_EXTENSIONS, WORKING_STEPS } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { SelectButton } from 'primeng/selectbutton';
import { Compute } from '../compute/compute';
import { counted } from '../shell/figures';
import { FindPiece } from '../shell/find-piece';
import { Header } from '../shell/header';
import { Notices } from '../shell/notices';
import { DropFiles } from './drop-files';
import { PieceCard } from './piece-card';
import { ImportReports } from './import-report';
import type { Arrived } from './new-art-desk';
import { SameName } from './same-name';
import { ShelfStore } from './shelf-store';

type Order = 'name' | 'triangles' | 'open';

/** One yard: every piece with its picture, size, tally and counts. Files can be dropped anywhere. */
@Component({
  selector: 'yb-shelf-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(window:beforeunload)': 'closing($event)' },
  imports: [Header, FindPiece, FormsModule, Button, InputText, SelectButton, PieceCard, DropFiles, SameName],
  template: `
    <div class="page" #drop="dropFiles" (ybDropFiles)="bringIn($event)">
      <yb-header [places]="[{ name: 'Yards', link: '/' }, { name: yard()?.name ?? '…' }]">
        <yb-find-piece start [pieces]="yard()?.shelf ?? []" />
        @if (yard(); as yard) {
          <span class="faded"
            >For <b class="for">{{ yard.rules.target.replaceAll('-', ' ') }}</b></span
          >
        }
      </yb-header>
      <yb-same-name (compare)="compareWith($event)" />
      <main>
        <div class="tools">
          <h1>
            Shelf <span class="faded">{{ counted(yard()?.shelf?.length ?? 0, 'piece') }}</span>
          </h1>
          <input
            pInputText
            pSize="small"
            type="text"
            placeholder="Filter by name"
            aria-label="Filter by name"
            [(ngModel)]="wanted"
          />
          <p-selectbutton
            [options]="orders"
            optionLabel="label"
            optionValue="value"
            [(ngModel)]="order"
            [allowEmpty]="false"
            size="small"
            aria-label="Order of the shelf"
          />
          <span class="gap"></span>
          <input
            #files
            type="file"
            multiple
            hidden
            [accept]="accepted"
            (change)="chosen(files)"
            data-testid="file-input"
          />
          @if (report()) {
            <button type="button" class="quiet-button" (click)="reports.show()">Last import</button>
          }
          <p-button label="Bring in files" icon="pi pi-plus" size="small" (onClick)="files.click()" />
        </div>
        @if (chosenPieces().length) {
          <div class="chosen" role="toolbar" aria-label="What to do with the chosen pieces">
            <b>{{ counted(chosenPieces().length, 'piece') }} chosen</b>
            <p-button
              [label]="'Deliver for ' + yard()!.rules.target.replaceAll('-', ' ')"
              size="small"
              [disabled]="acting()"
              (onClick)="deliver()"
            />
            <p-button
              [label]="asked() ? 'Really remove ' + counted(chosenPieces().length, 'piece') : 'Remove'"
              size="small"
              severity="danger"
              [outlined]="true"
              [disabled]="acting()"
              (onClick)="remove()"
            />
            <button type="button" class="quiet-button" (click)="chosenIds.set(none)">Choose none</button>
            @if (acting()) {
              <span class="faded" role="status">Working through them …</span>
            }
          </div>
        }
        <ul class="shelf">
          @for (piece of shown(); track piece.id) {
            <li>
              <yb-piece-card [piece]="piece" [chosen]="chosenIds().has(piece.id)" (choose)="choose(piece)" />
            </li>
          }
        </ul>
        @if (yard() && yard()!.shelf.length === 0 && importing()) {
          <p class="empty">The files are being read; each piece appears here as soon as it is there.</p>
        } @else if (yard() && yard()!.shelf.length === 0) {
          <p class="empty">
            The shelf is empty. Drop OBJ, glTF, COLLADA, STL or PLY files or whole folders anywhere on this
            page, with their material libraries and pictures.
          </p>
        } @else if (yard() && shown().length === 0) {
          <p class="empty">No piece has “{{ wanted() }}” in its name.</p>
        }
      </main>
      @if (drop.over()) {
        <div class="drop-over" aria-hidden="true">Let go to bring the files in to {{ yard()?.name }}</div>
      }
    </div>
  `,
  styles: `
    .page {
      min-height: 100vh;
    }
    main {
      padding: 18px 24px 40px;
    }
    .for {
      color: var(--ink);
    }
    .tools {
      display: flex;
      align-items: center;
      gap: 14px;
      margin-bottom: 16px;
    }
    h1 {
      font-size: 18px;
      margin-right: 8px;
    }
    h1 .faded {
      font-size: 13px;
      font-weight: 400;
      margin-left: 6px;
    }
    .gap {
      flex: 1;
    }
    .shelf {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(228px, 1fr));
      gap: 14px;
    }
    .chosen {
      display: flex;
      align-items: center;
      gap: 12px;
      margin: -4px 0 14px;
      padding: 6px 12px;
      background: var(--card);
      border: 1px solid var(--tide);
      border-radius: var(--corner);
    }
    .empty {
      padding: 60px 0;
      text-align: center;
      color: var(--faded);
    }
  `,
})
export class ShelfPage {
  private readonly store = inject(ShelfStore);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly compute = inject(Compute);
  readonly yardId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.store.yard$, { initialValue: null });
  protected readonly reports = inject(ImportReports);
  protected readonly report = toSignal(this.reports.report$, { requireSync: true });
  protected readonly importing = computed(() => this.report()?.running ?? false);
  protected readonly wanted = signal('');
  protected readonly order = signal<Order>('name');
  protected readonly none: ReadonlySet<number> = new Set<number>();
  protected readonly chosenIds = signal(this.none);
  protected readonly asked = signal(false);
  protected readonly acting = signal(false);
  protected readonly orders = [
    { label: 'By name', value: 'name' },
    { label: 'By triangles', value: 'triangles' },
    { label: 'Most to do', value: 'open' },
  ];
  protected readonly accepted = [...MESH_EXTENSIONS, ...BESIDE_EXTENSIONS]
    .map((extension) => `.${extension}`)
    .join();
  protected readonly counted = counted;
  protected readonly chosenPieces = computed(() =>
    (this.yard()?.shelf ?? []).filter(({ id }) => this.chosenIds().has(id)),
  );

  protected readonly shown = computed(() => {
    const wanted = this.wanted().trim().toLowerCase();
    const pieces = (this.yard()?.shelf ?? []).filter((piece) => piece.name.toLowerCase().includes(wanted));
    const order = this.order();
    const toDo = (piece: PieceSummary) =>
      WORKING_STEPS.filter((step) => piece.tally[step] !== 'clear').length;
    return pieces.sort(
      (a, b) =>
        (order === 'triangles' ? b.triangles - a.triangles : order === 'open' ? toDo(b) - toDo(a) : 0) ||
        a.name.localeCompare(b.name, 'en', { numeric: true }),
    );
  });

  private left = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.left = true));
    effect(() => {
      this.store.load(this.yardId()).catch((error) => this.notices.error(error));
    });
  }

  protected chosen(input: HTMLInputElement): void {
    const files = [...(input.files ?? [])];
    input.value = '';
    void this.bringIn(files);
  }

  /** One file goes straight to the bench, unless the person went elsewhere meanwhile; several stay on the shelf. */
  protected compareWith({ piece }: Arrived): void {
    void this.router.navigate(['/pieces', piece]);
  }

  protected async bringIn(files: File[]): Promise<void> {
    const added = await this.store.bringIn(this.yardId(), files);
    if (added.length === 1 && !this.left) await this.router.navigate(['/pieces', added[0]]);
  }

  protected choose({ id }: PieceSummary): void {
    this.asked.set(false);
    this.chosenIds.update(
      (ids) => new Set(ids.has(id) ? [...ids].filter((other) => other !== id) : [...ids, id]),
    );
  }

  protected async deliver(): Promise<void> {
    this.acting.set(true);
    await this.store.deliver(this.chosenPieces());
    this.acting.set(false);
  }

  /** Asks once more on the same button: nothing is gone by a slip. */
  protected async remove(): Promise<void> {
    if (!this.asked()) {
      this.asked.set(true);
      return;
    }
    this.acting.set(true);
    await this.store.remove(this.chosenPieces());
    this.chosenIds.set(this.none);
    this.asked.set(false);
    this.acting.set(false);
  }

  protected closing(event: BeforeUnloadEvent): void {
    if (this.compute.task$.value?.stoppable || this.acting()) event.preventDefault();
  }
}
