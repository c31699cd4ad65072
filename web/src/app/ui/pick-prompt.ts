import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Picking } from '../state/picking';

/** What the person is asked to pick in the view. */
@Component({
  selector: 'yb-pick-prompt',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asked(); as what) {
      <p role="status" data-testid="asking">
        {{ what }} <button type="button" class="quiet-button" (click)="picking.cancel()">Cancel</button>
      </p>
    }
  `,
  styles: `
    p {
      justify-self: center;
      padding: 5px 8px 5px 14px;
      background: var(--card);
      border: 1px solid var(--brass);
      border-left: 4px solid var(--brass);
    }
  `,
})
export class PickPrompt {
  protected readonly picking = inject(Picking);
  protected readonly asked = toSignal(this.picking.asked$, { requireSync: true });
}
