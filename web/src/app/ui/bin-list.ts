import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import type { BinEntry } from '@yard-brace/contract';
import { counted } from '@yard-brace/core';
import { Api } from '../api/api';
import { Notices } from '../state/notices';
import { momentText } from './moment';

/** What was removed from a yard, or yards that were: each can be put back for thirty days. */
@Component({
  selector: 'yb-bin-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="head">
      <span class="grow faded"
        >Removed; put back for thirty days with all versions and deliveries, then gone for good.</span
      >
      @if (entries().length > 1) {
        <button type="button" class="quiet-button" [disabled]="acting()" (click)="putBack(entries())">
          Put all {{ entries().length }} back
        </button>
      }
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
            [disabled]="acting()"
            (click)="putBack([entry])"
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
    .head {
      display: flex;
      align-items: center;
      gap: 12px;
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

  protected readonly acting = signal(false);

  /** One after the other; one that cannot come back keeps no other in the bin. */
  protected async putBack(entries: readonly BinEntry[]): Promise<void> {
    this.acting.set(true);
    const back: BinEntry[] = [];
    for (const entry of entries)
      try {
        await (this.of() === 'yards' ? this.api.putYardBack(entry.id) : this.api.putPieceBack(entry.id));
        back.push(entry);
      } catch (error) {
        this.notices.error(error);
      }
    const what = this.of() === 'yards' ? 'yard' : 'piece';
    if (back.length === 1) this.notices.say(`${back[0]!.name} is back.`);
    else if (back.length) this.notices.say(`${counted(back.length, what)} are back.`);
    this.acting.set(false);
    this.changed.emit();
  }
}
