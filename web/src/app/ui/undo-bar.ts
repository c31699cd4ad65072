import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { SavedWork } from '../state/saved-work';
import { Keymap } from './keymap';
import { savingText, savingWhy } from './saving-text';

/** Undo, redo, and how the last change stands with the server. */
@Component({
  selector: 'yb-undo-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="undo">
      <button
        type="button"
        class="quiet-button"
        [disabled]="!undoable()"
        [title]="undoable() ? 'Undo ' + undoable() + ' (Ctrl Z)' : 'Nothing to undo'"
        (click)="work.undo()"
        data-testid="undo"
      >
        <span class="pi pi-undo" aria-hidden="true"></span><span class="sr-only">Undo {{ undoable() }}</span>
      </button>
      <button
        type="button"
        class="quiet-button"
        [disabled]="!redoable()"
        [title]="redoable() ? 'Redo ' + redoable() + ' (Ctrl Shift Z)' : 'Nothing to redo'"
        (click)="work.redo()"
        data-testid="redo"
      >
        <span class="pi pi-undo flip" aria-hidden="true"></span
        ><span class="sr-only">Redo {{ redoable() }}</span>
      </button>
    </span>
    <span class="saving" [class.bad]="bad()" role="status" data-testid="saving" [title]="why()">{{
      text()
    }}</span>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 18px;
      white-space: nowrap;
    }
    .undo {
      display: flex;
    }
    .flip {
      transform: scaleX(-1);
    }
    .saving.bad {
      color: var(--vermilion);
      font-weight: 600;
    }
  `,
})
export class UndoBar {
  protected readonly work = inject(SavedWork);
  private readonly saving = toSignal(this.work.saving$, { requireSync: true });
  protected readonly undoable = toSignal(this.work.undoable$);
  protected readonly redoable = toSignal(this.work.redoable$);
  protected readonly text = computed(() => savingText(this.saving()));
  protected readonly why = computed(() => savingWhy(this.saving()));
  protected readonly bad = computed(() => ['waiting', 'refused'].includes(this.saving().state));

  constructor() {
    inject(Keymap).bind([
      { keys: ['Ctrl+Z'], help: 'undo', act: () => this.work.undo() },
      { keys: ['Ctrl+Shift+Z', 'Ctrl+Y'], help: 'redo', act: () => this.work.redo() },
    ]);
  }
}
