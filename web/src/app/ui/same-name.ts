import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { listText } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Importer } from '../state/importer';
import { type Arrived, NewArtDesk } from '../state/new-art-desk';
import { ShelfStore } from '../state/shelf-store';

/** Asks, without blocking anything, what a file is that bears the name of one that came before. */
@Component({
  selector: 'yb-same-name',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @for (arrived of waiting(); track arrived) {
      <div class="line" role="status" data-testid="same-name">
        <span
          ><b>{{ arrived.file.name }}</b> was imported before, for {{ names(arrived) }}.</span
        >
        @for (piece of arrived.pieces; track piece.id) {
          <p-button
            [label]="'Compare it with ' + piece.name"
            size="small"
            (onClick)="compareIt(arrived, piece.id)"
          />
        }
        <p-button
          label="Import as a new piece"
          size="small"
          [outlined]="true"
          (onClick)="importNew(arrived)"
        />
        <button type="button" class="quiet-button" (click)="desk.dismiss(arrived)">Neither</button>
      </div>
    }
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
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
  private readonly importer = inject(Importer);
  /** number of the piece */
  readonly compare = output<number>();
  protected readonly waiting = toSignal(this.desk.waiting$, { requireSync: true });
  protected readonly names = ({ pieces }: Arrived) => listText(pieces.map(({ name }) => name));

  protected compareIt(arrived: Arrived, piece: number): void {
    this.desk.compare(arrived, piece);
    this.compare.emit(piece);
  }

  protected importNew(arrived: Arrived): void {
    this.desk.dismiss(arrived);
    const { yard } = this.shelf;
    if (yard) void this.importer.import(yard.id, [arrived.file, ...arrived.beside], { asNew: true });
  }
}
