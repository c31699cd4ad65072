import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import type { BinEntry } from '@yard-brace/contract';
import { Api } from '../api/api';
import { Notices } from '../state/notices';
import { momentText } from './moment';

/** What was removed from a yard, or yards that were: each can be put back for thirty days. */
@Component({
  selector: 'yb-bin-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="faded">
      Removed; put back for thirty days with all versions and deliveries, then gone for good.
    </p>
    <ul data-testid="bin">
      @for (entry of entries(); track entry.id) {
        <li>
          <span class="grow">{{ entry.name }}</span>
          <span class="figures faded">{{ momentText(entry.removedAt) }}</span>
          <button
            type="button"
            class="quiet-button"
            [attr.aria-label]="'Put ' + entry.name + ' back'"
            (click)="putBack(entry)"
          >
            Put back
          </button>
        </li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 12px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
    ul {
      max-height: 200px;
      overflow-y: auto;
    }
    li {
      display: flex;
      align-items: center;
      gap: 12px;
      min-height: 28px;
      border-bottom: 1px dotted var(--rule);
    }
    .grow {
      flex: 1;
    }
  `,
})
export class BinList {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  readonly entries = input.required<readonly BinEntry[]>();
  readonly of = input.required<'pieces' | 'yards'>();
  readonly changed = output();
  protected readonly momentText = momentText;

  protected async putBack({ id, name }: BinEntry): Promise<void> {
    try {
      await (this.of() === 'yards' ? this.api.putYardBack(id) : this.api.putPieceBack(id));
      this.notices.say(`${name} is back.`);
    } catch (error) {
      this.notices.error(error);
    }
    this.changed.emit();
  }
}
