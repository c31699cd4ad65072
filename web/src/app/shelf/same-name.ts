import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { type Arrived, NewArtDesk } from './new-art-desk';
import { ShelfStore } from './shelf-store';

/** Asks, without blocking anything, what a file is that bears the name of one that came before. */
@Component({
  selector: 'yb-same-name',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @for (arrived of waiting(); track arrived) {
      <section role="status" data-testid="same-name">
        <span
          ><b>{{ arrived.file.name }}</b> came before, for {{ arrived.name }}.</span
        >
        <p-button [label]="'Compare it with ' + arrived.name" size="small" (onClick)="compareIt(arrived)" />
        <p-button
          label="Bring it in as a piece of its own"
          size="small"
          [outlined]="true"
          (onClick)="bringIn(arrived)"
        />
        <button type="button" class="quiet-button" (click)="desk.answer(arrived, false)">Neither</button>
      </section>
    }
  `,
  styles: `
    section {
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 7px 14px;
      background: var(--card);
      border-bottom: 1px solid var(--ink);
      border-left: 6px solid var(--brass);
    }
    span {
      flex: 1;
    }
  `,
})
export class SameName {
  protected readonly desk = inject(NewArtDesk);
  private readonly shelf = inject(ShelfStore);
  readonly compare = output<Arrived>();
  protected readonly waiting = toSignal(this.desk.waiting$, { requireSync: true });

  protected compareIt(arrived: Arrived): void {
    this.desk.answer(arrived, true);
    this.compare.emit(arrived);
  }

  protected bringIn(arrived: Arrived): void {
    this.desk.answer(arrived, false);
    const yard = this.shelf.yard$.value;
    if (yard) void this.shelf.bringIn(yard.id, [arrived.file, ...arrived.beside], { asNew: true });
  }
}
