import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Check } from '../../../../ui/check';
import { momentText } from '../../../../ui/moment';
import { Deliveries } from './deliveries';

/** What is otherwise than in the last delivery for the target; what breaks placed copies has to be answered. */
@Component({
  selector: 'yb-since-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check],
  template: `
    @if (last(); as last) {
      <section class="panel" data-testid="since">
        <h3>Since {{ momentText(last.at) }}</h3>
        @for (change of changes(); track change.says) {
          @if (change.breaks) {
            <div class="breaks">
              <p>{{ change.says }}</p>
              <yb-check
                [checked]="deliveries.isAnswered(target(), change.says)"
                (changed)="deliveries.answer(target(), change.says, $event)"
                >Placed copies are seen to</yb-check
              >
            </div>
          } @else {
            <p class="change">{{ change.says }}</p>
          }
        } @empty {
          <p class="faded">Nothing that leaves changed.</p>
        }
      </section>
    }
  `,
  styles: `
    .breaks {
      padding: 4px 10px;
      border-left: 6px solid var(--vermilion);
      background: var(--paper);
    }
    .change {
      padding: 2px 10px;
      border-left: 3px solid var(--rule);
    }
  `,
})
export class SincePanel {
  protected readonly deliveries = inject(Deliveries);
  private readonly choices = inject(DeliveryChoicesStore);
  protected readonly momentText = momentText;
  protected readonly target = computed(() => this.choices.shown()?.id ?? '');
  protected readonly last = computed(() => this.deliveries.lastFor(this.target()));
  protected readonly changes = computed(() => this.deliveries.changesFor(this.target()));
}
