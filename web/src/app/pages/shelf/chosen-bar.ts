import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type PieceSummary, piecesArchive } from '@yard-brace/contract';
import { counted, meshNameFrom } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { ShelfRenames } from '../../state/shelf-renames';
import { ShelfStore } from '../../state/shelf-store';
import { targetNames } from '../../ui/target-names';
import { Ask } from '../../ui/ask';
import { Check } from '../../ui/check';
import { RenamePieces } from './rename-pieces';
import { RunRecipe } from './run-recipe';

/** What is done to the chosen pieces. */
@Component({
  selector: 'yb-chosen-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check, InputText, RenamePieces, RunRecipe],
  template: `
    @if (pieces().length) {
      <div class="chosen" role="toolbar" aria-label="What to do with the chosen pieces">
        <b>{{ counted(pieces().length, 'piece') }} chosen</b>
        <p-button
          [label]="'Deliver for ' + target()"
          size="small"
          [disabled]="acting()"
          (onClick)="deliver()"
        />
        @if (pieces().length > 1) {
          <button
            type="button"
            class="quiet-button"
            [attr.aria-expanded]="open() === 'together'"
            (click)="toggle('together')"
          >
            Deliver in one file …
          </button>
        }
        <button
          type="button"
          class="quiet-button"
          [attr.aria-expanded]="open() === 'recipe'"
          (click)="toggle('recipe')"
        >
          Run a recipe …
        </button>
        <button
          type="button"
          class="quiet-button"
          [attr.aria-expanded]="open() === 'rename'"
          (click)="toggle('rename')"
        >
          Rename by a pattern …
        </button>
        <a class="quiet-button" download [href]="archive()">Export</a>
        <p-button
          label="Remove"
          size="small"
          severity="danger"
          [outlined]="true"
          [disabled]="acting()"
          (onClick)="remove()"
        />
        <button type="button" class="quiet-button" (click)="none.emit()">Choose none</button>
        @if (acting()) {
          <span class="faded" role="status">Working …</span>
        }
        @switch (open()) {
          @case ('together') {
            <div class="more">
              <span>One file, each piece where it stood in its own file.</span>
              <input
                #name
                pInputText
                pSize="small"
                class="figures"
                maxlength="120"
                aria-label="Name of the file"
                [value]="fileName()"
              />
              <yb-check [checked]="seenTo()" (changed)="seenTo.set($event)"
                >Placed copies are seen to</yb-check
              >
              <p-button
                [label]="'Deliver ' + pieces().length + ' in one file'"
                size="small"
                [disabled]="acting()"
                (onClick)="deliverTogether(name.value, seenTo())"
              />
            </div>
          }
          @case ('recipe') {
            <yb-run-recipe class="more" [pieces]="pieces()" (done)="open.set(null)" />
          }
          @case ('rename') {
            <yb-rename-pieces class="more" [pieces]="pieces()" (done)="open.set(null)" />
          }
        }
      </div>
    }
    @if (renames.undoable().length; as count) {
      <div class="chosen">
        <span>{{ counted(count, 'piece') }} renamed.</span>
        <button type="button" class="quiet-button" (click)="undoRename()">Undo the rename</button>
      </div>
    }
  `,
  styles: `
    .chosen {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
      padding: 6px 12px;
      background: var(--card);
      border: 1px solid var(--tide);
      border-radius: var(--corner);
    }
    .more {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
      flex-basis: 100%;
      padding-top: 6px;
      border-top: 1px dotted var(--rule);
    }
    yb-run-recipe.more,
    yb-rename-pieces.more {
      display: block;
    }
  `,
})
export class ChosenBar {
  private readonly shelf = inject(ShelfStore);
  private readonly ask = inject(Ask);
  readonly pieces = input.required<readonly PieceSummary[]>();
  readonly none = output();
  /** whether the work goes on: closing the page asks then */
  readonly working = output<boolean>();
  protected readonly acting = signal(false);
  /** the chosen pieces as one file, which any yard takes in */
  protected readonly archive = computed(() =>
    piecesArchive(
      this.shelf.yard?.id ?? 0,
      this.pieces().map(({ id }) => id),
    ),
  );
  protected readonly counted = counted;
  protected readonly target = () => (this.shelf.yard ? targetNames(this.shelf.yard) : '');

  protected readonly renames = inject(ShelfRenames);
  protected readonly open = signal<'together' | 'recipe' | 'rename' | null>(null);
  protected readonly fileName = computed(() => meshNameFrom(this.shelf.yard?.name ?? ''));

  protected toggle(what: 'together' | 'recipe' | 'rename'): void {
    this.open.update((open) => (open === what ? null : what));
  }

  protected readonly seenTo = signal(false);

  protected deliverTogether(name: string, seenTo: boolean): Promise<void> {
    return this.act(() => this.shelf.deliverTogether(this.pieces(), name.trim(), seenTo));
  }

  protected undoRename(): Promise<void> {
    return this.act(() => this.renames.undo());
  }

  protected deliver(): Promise<void> {
    return this.act(() => this.shelf.deliver(this.pieces()));
  }

  protected async remove(): Promise<void> {
    const count = counted(this.pieces().length, 'piece');
    const sure = await this.ask.ask({
      title: `Remove ${count}?`,
      text: 'They go into the bin of the yard, with their versions and deliveries, and can be put back for thirty days.',
      accept: `Remove ${count}`,
      reject: 'Keep',
      destructive: true,
    });
    if (!sure) return;
    await this.act(() => this.shelf.remove(this.pieces()));
    this.none.emit();
  }

  private async act(work: () => Promise<void>): Promise<void> {
    this.acting.set(true);
    this.working.emit(true);
    try {
      await work();
    } finally {
      this.acting.set(false);
      this.working.emit(false);
    }
  }
}
