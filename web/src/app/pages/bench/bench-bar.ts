import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BenchStore } from '../../state/bench-store';
import { UndoBar } from '../../ui/undo-bar';

/** What can be undone, how it is saved, and for which target: the bench's part of the header. */
@Component({
  selector: 'yb-bench-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [UndoBar],
  template: `
    <yb-undo-bar />
    <button
      type="button"
      class="quiet-button"
      [attr.aria-pressed]="recipes()"
      (click)="recipesChange.emit(!recipes())"
    >
      Recipes
    </button>
    <span class="faded"
      >For <b class="for">{{ target() }}</b></span
    >
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 18px;
      white-space: nowrap;
    }
    [aria-pressed='true'] {
      background: #17616e14;
    }
    .for {
      color: var(--ink);
    }
  `,
})
export class BenchBar {
  /** whether recipes stand in the place of the job card */
  readonly recipes = input(false);
  readonly recipesChange = output<boolean>();
  private readonly bench = inject(BenchStore);
  private readonly piece = toSignal(this.bench.piece$);
  protected readonly target = computed(() => (this.piece() ? this.bench.profile.name : ''));
}
