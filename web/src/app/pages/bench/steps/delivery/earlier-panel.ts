import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { counted, countText } from '@yard-brace/core';
import { momentText } from '../../../../ui/moment';
import { Deliveries } from './deliveries';

/** The deliveries before the one that is shown. */
@Component({
  selector: 'yb-earlier-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (deliveries.others().length) {
      <section class="panel">
        <h3>Earlier</h3>
        <ul class="list">
          @for (delivery of deliveries.others(); track delivery.id) {
            <li>
              <button type="button" class="quiet-button" (click)="deliveries.show(delivery.id)">
                {{ momentText(delivery.at) }}
              </button>
              <span class="faded"
                >{{ delivery.profile?.name ?? delivery.target }},
                {{ counted(delivery.readBack.shapes.length, 'shape') }},
                {{ delivery.agreed ? 'agreed' : 'differed' }}</span
              >
            </li>
          }
        </ul>
        @if (deliveries.more()) {
          <button type="button" class="quiet-button" (click)="deliveries.loadMore()">
            Show {{ countText(deliveries.more()) }} more
          </button>
        }
      </section>
    }
  `,
})
export class EarlierPanel {
  protected readonly deliveries = inject(Deliveries);
  protected readonly counted = counted;
  protected readonly countText = countText;
  protected readonly momentText = momentText;
}
