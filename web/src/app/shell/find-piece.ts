import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import type { PieceSummary } from '@yard-brace/contract';

/** Find a piece of the yard by a few letters of its name, from anywhere. */
@Component({
  selector: 'yb-find-piece',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'hotkey($event)' },
  template: `
    <div
      class="find"
      role="combobox"
      [attr.aria-expanded]="open()"
      aria-haspopup="listbox"
      aria-controls="found-pieces"
    >
      <input
        #field
        type="text"
        placeholder="Find a piece"
        aria-label="Find a piece"
        autocomplete="off"
        [value]="text()"
        (input)="type(field.value)"
        (focus)="open.set(true)"
        (blur)="close()"
        (keydown)="move($event)"
      />
      <kbd class="figures faded">Ctrl K</kbd>
      @if (open() && text()) {
        <ul id="found-pieces" role="listbox">
          @for (piece of found(); track piece.id; let i = $index) {
            <li
              role="option"
              [attr.aria-selected]="i === chosen()"
              [class.chosen]="i === chosen()"
              (pointerdown)="go(piece)"
            >
              {{ piece.name }} <span class="faded figures">{{ piece.meshName }}</span>
            </li>
          } @empty {
            <li class="faded">No piece of this yard has “{{ text() }}” in its name.</li>
          }
        </ul>
      }
    </div>
  `,
  styles: `
    .find {
      position: relative;
      display: flex;
      align-items: center;
      width: 190px;
      height: 28px;
      padding: 0 10px;
      background: var(--paper);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
    .find:focus-within {
      border-color: var(--tide);
    }
    input {
      flex: 1;
      min-width: 0;
      border: 0;
      background: none;
      outline: none;
    }
    input::placeholder {
      color: var(--faded);
    }
    ul {
      position: absolute;
      z-index: 30;
      top: 32px;
      left: -1px;
      width: 320px;
      background: var(--card);
      border: 1px solid var(--ink);
      border-radius: var(--corner);
    }
    li {
      padding: 5px 10px;
      cursor: pointer;
    }
    li.chosen {
      background: var(--ink);
      color: var(--card);
    }
    li.chosen .faded {
      color: var(--rule);
    }
  `,
})
export class FindPiece {
  private readonly router = inject(Router);
  readonly pieces = input<readonly PieceSummary[]>([]);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly text = signal('');
  protected readonly open = signal(false);
  protected readonly chosen = signal(0);
  protected readonly found = computed(() => {
    const wanted = this.text().trim().toLowerCase();
    return this.pieces()
      .filter(
        ({ name, meshName }) =>
          name.toLowerCase().includes(wanted) || meshName.toLowerCase().includes(wanted),
      )
      .slice(0, 8);
  });

  protected hotkey(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return;
    event.preventDefault();
    this.field().nativeElement.focus();
    this.field().nativeElement.select();
  }

  protected type(text: string): void {
    this.text.set(text);
    this.chosen.set(0);
    this.open.set(true);
  }

  protected move(event: KeyboardEvent): void {
    const count = this.found().length;
    if (event.key === 'ArrowDown' && count) this.chosen.update((i) => (i + 1) % count);
    else if (event.key === 'ArrowUp' && count) this.chosen.update((i) => (i + count - 1) % count);
    else if (event.key === 'Enter' && this.found()[this.chosen()]) this.go(this.found()[this.chosen()]!);
    else if (event.key === 'Escape') this.field().nativeElement.blur();
    else return;
    event.preventDefault();
  }

  protected close(): void {
    this.open.set(false);
    this.text.set('');
  }

  protected go(piece: PieceSummary): void {
    this.close();
    this.field().nativeElement.blur();
    void this.router.navigate(['/pieces', piece.id]);
  }
}
