import { ChangeDetectionStrategy, Component, inject, input, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { PieceSummary } from '@yard-brace/contract';
import { AutoComplete } from 'primeng/autocomplete';
import { Keymap } from './keymap';

/** The pieces that have some letters in their name or their mesh's. */
export function piecesNamed(pieces: readonly PieceSummary[], text: string): PieceSummary[] {
  const wanted = text.trim().toLowerCase();
  return pieces.filter(
    ({ name, meshName }) => name.toLowerCase().includes(wanted) || meshName.toLowerCase().includes(wanted),
  );
}

/** Find a piece of the yard by a few letters of its name, from anywhere. */
@Component({
  selector: 'yb-find-piece',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, AutoComplete],
  template: `
    <p-autocomplete
      size="small"
      [ngModel]="chosen()"
      [suggestions]="found()"
      (completeMethod)="look($event.query)"
      (onSelect)="go($event.value)"
      optionLabel="name"
      [delay]="0"
      [minQueryLength]="1"
      [autoOptionFocus]="true"
      [virtualScroll]="true"
      [virtualScrollItemSize]="28"
      scrollHeight="280px"
      placeholder="Find a piece (Ctrl K)"
      ariaLabel="Find a piece"
      [emptyMessage]="'No piece of this yard has “' + text() + '” in its name.'"
      [inputStyle]="{ width: '190px' }"
      [panelStyle]="{ minWidth: '320px' }"
      appendTo="body"
      [pt]="{ overlay: { role: 'region', 'aria-label': 'Pieces found' } }"
      (keydown.enter)="enter()"
      #field
    >
      <ng-template #item let-piece>
        <span class="name">{{ piece.name }}</span>
        <span class="mesh figures" [attr.data-mesh]="piece.meshName"></span>
      </ng-template>
    </p-autocomplete>
  `,
  styles: `
    .name {
      white-space: nowrap;
    }
    /* Beside the name, not part of it. */
    .mesh::after {
      content: attr(data-mesh);
    }
    .mesh {
      margin-left: 8px;
      opacity: 0.75;
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
})
export class FindPiece {
  private readonly router = inject(Router);
  readonly pieces = input<readonly PieceSummary[]>([]);
  private readonly field = viewChild.required<AutoComplete>('field');
  protected readonly text = signal('');
  protected readonly found = signal<PieceSummary[]>([]);
  protected readonly chosen = signal<PieceSummary | null>(null);

  constructor() {
    inject(Keymap).bind([
      { keys: ['Ctrl+K'], help: 'find a piece', inFields: true, act: () => this.focus() },
    ]);
  }

  protected look(text: string): void {
    this.text.set(text);
    this.found.set(piecesNamed(this.pieces(), text));
  }

  /** Enter that is faster than the list takes what the list will have first. */
  protected enter(): void {
    // The list has taken one.
    if (this.chosen()) return;
    const typed = this.input().value;
    const [first] = typed.trim() ? piecesNamed(this.pieces(), typed) : [];
    if (first) this.go(first);
  }

  protected go(piece: PieceSummary): void {
    // The field is empty again: it finds, it does not hold.
    this.chosen.set(piece);
    setTimeout(() => this.chosen.set(null));
    this.input().blur();
    void this.router.navigate(['/pieces', piece.id]);
  }

  private input = (): HTMLInputElement => this.field().inputEL!.nativeElement;

  private focus(): void {
    this.input().focus();
    this.input().select();
  }
}
