import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { bundleName, routes } from '@yard-brace/contract';
import { bytesText } from '@yard-brace/core';
import { Disclosure } from '../../../../ui/disclosure';
import { FactTable } from '../../../../ui/fact-table';
import { momentText } from '../../../../ui/moment';
import { Deliveries } from './deliveries';
import { verdictOf } from './verdict';

/** One delivery: its files, and what was read back from their bytes. */
@Component({
  selector: 'yb-delivered-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Disclosure, FactTable],
  template: `
    @if (shown(); as delivery) {
      <section class="panel" data-testid="read-back">
        <h3>
          Delivered {{ momentText(delivery.at) }}{{ delivery.set ? ', the set “' + delivery.set + '”' : '' }}
        </h3>
        <ul class="list">
          @for (file of delivery.files; track file.name) {
            <li>
              <span class="figures grow">{{ file.name }}</span><span class="figures faded">{{
                bytesText(file.bytes)
              }}</span>
            </li>
          }
        </ul>
        <a class="bundle" [href]="bundle(delivery.id)" [attr.download]="name()" data-testid="bundle"
          >Download {{ name() }}</a
        >
        <h3>Read back</h3>
        <p class="verdict" [class.off]="!delivery.agreed" data-testid="verdict">{{ verdict() }}</p>
        @for (point of off(); track point.point) {
          <p [class.stop]="!point.substituted">
            {{ point.point }}: {{ point.expected }} was drawn, {{ point.found }} was read.
          </p>
        }
        @if (remarks().length) {
          <ul>
            @for (remark of remarks(); track $index) {
              <li>
                <span class="figures">{{ remark.name }}</span>: {{ remark.text }}
              </li>
            }
          </ul>
        }
        <yb-disclosure more="All {{ delivery.comparison.length }} points">
          <yb-facts [facts]="points()" [heads]="['Point', 'drawn, and read back']" [wraps]="true" />
        </yb-disclosure>
      </section>
    }
  `,
  styles: `
    .figures,
    li {
      overflow-wrap: anywhere;
    }
    .bundle {
      display: inline-block;
      margin: 4px 0 8px;
      font-weight: 600;
    }
    .verdict {
      padding: 5px 10px;
      border-left: 3px solid var(--moss);
      background: var(--paper);
    }
    .verdict.off,
    .stop {
      padding: 5px 10px;
      border-left: 6px solid var(--vermilion);
      background: var(--paper);
    }
  `,
})
export class DeliveredPanel {
  protected readonly shown = inject(Deliveries).shown;
  protected readonly bytesText = bytesText;
  protected readonly momentText = momentText;
  protected readonly bundle = routes.deliveryBundle;
  protected readonly name = computed(() => bundleName(this.shown()!.files.map((file) => file.name)));
  protected readonly verdict = computed(() => verdictOf(this.shown()!.comparison, this.shown()!.agreed));
  protected readonly off = computed(() => this.shown()!.comparison.filter(({ agrees }) => !agrees));
  protected readonly remarks = computed(() => {
    const { changed, ignored } = this.shown()!.readBack;
    return [
      ...changed.map(({ name, how }) => ({ name, text: how })),
      ...ignored.map(({ name, why }) => ({ name, text: why })),
    ];
  });
  protected readonly points = computed(() =>
    this.shown()!.comparison.map(({ point, agrees, expected, found }) => ({
      name: point,
      text: agrees ? found : `${expected}, read ${found}`,
      bad: !agrees,
    })),
  );
}
