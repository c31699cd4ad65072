import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  numberAttribute,
  signal,
} from '@angular/core';
import type { Delivery } from '@yard-brace/contract';
import { marked } from 'marked';
import { Button } from 'primeng/button';
import { Api } from '../../api/api';
import { Notices } from '../../state/notices';
import { Header } from '../../ui/header';
import { momentText } from '../../ui/moment';

const SHEET = '.import.md';

/** The import sheets of a delivery, as they left, on pages that print. */
@Component({
  selector: 'yb-sheet-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Header],
  template: `
    <div class="page">
      <yb-header [places]="[{ name: 'Yards', link: '/' }, { name: title() }]">
        <p-button start label="Print" size="small" (onClick)="print()" [disabled]="!sheets().length" />
      </yb-header>
      <main>
        @for (sheet of sheets(); track $index) {
          <article [innerHTML]="sheet" data-testid="sheet"></article>
        }
      </main>
    </div>
  `,
  styleUrl: './sheet-page.css',
})
export class SheetPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  readonly id = input.required({ transform: numberAttribute });
  private readonly delivery = signal<Delivery | null>(null);
  /** Markdown made HTML; Angular takes out what is not harmless */
  protected readonly sheets = signal<readonly string[]>([]);
  protected readonly title = computed(() => {
    const delivery = this.delivery();
    return delivery ? `${delivery.piece.name}, sheet of ${momentText(delivery.at)}` : '…';
  });

  constructor() {
    effect(() => {
      this.load(this.id()).catch((error: unknown) => this.notices.error(error));
    });
  }

  protected print(): void {
    window.print();
  }

  private async load(id: number): Promise<void> {
    const delivery = await this.api.delivery(id);
    this.delivery.set(delivery);
    const sheets: string[] = [];
    for (const [position, { name }] of delivery.files.entries())
      if (name.endsWith(SHEET))
        sheets.push(await marked.parse(await this.api.deliveryText(id, position), { async: true }));
    this.sheets.set(sheets);
  }
}
