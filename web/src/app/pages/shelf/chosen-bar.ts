import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import type { PieceSummary } from '@yard-brace/contract';
import { counted } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { ShelfStore } from '../../state/shelf-store';
import { targetNames } from '../../ui/target-names';
import { Ask } from '../../ui/ask';

/** What is done to the chosen pieces. */
@Component({
  selector: 'yb-chosen-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
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
  protected readonly counted = counted;
  protected readonly target = () => (this.shelf.yard ? targetNames(this.shelf.yard) : '');

  protected deliver(): Promise<void> {
    return this.act(() => this.shelf.deliver(this.pieces()));
  }

  protected async remove(): Promise<void> {
    const count = counted(this.pieces().length, 'piece');
    const sure = await this.ask.ask({
      title: `Remove ${count}?`,
      text: 'They go with their versions and deliveries, for good.',
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
