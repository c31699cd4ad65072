import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { CONTAINER_NAMES, counted } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { ChoicesPanel } from './choices-panel';
import { Deliveries } from './deliveries';
import { SincePanel } from './since-panel';
import { WaybillPanel } from './waybill-panel';

/** For which targets the piece leaves, what goes, and what keeps it here. */
@Component({
  selector: 'yb-deliver-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check, Choice, ChoicesPanel, SincePanel, WaybillPanel],
  template: `
    @if (document(); as document) {
      <section class="panel">
        @if (choices.targets().length > 1) {
          <h3>Targets</h3>
          <ul class="targets">
            @for (target of choices.targets(); track target.id) {
              <li [class.shown]="target.id === choices.shown()?.id">
                <yb-check
                  [checked]="leaves(target.id)"
                  [label]="'Deliver for ' + target.name"
                  (changed)="choices.leave(target.id, $event)"
                />
                <button
                  type="button"
                  [attr.aria-pressed]="target.id === choices.shown()?.id"
                  (click)="choices.show(target.id)"
                >
                  {{ target.name }}
                </button>
                @if (choices.refusedNames(target.id); as names) {
                  <span
                    class="refused"
                    title="This target does not take them; nothing leaves for it until they are mended"
                    >{{ counted(names, 'name') }} to mend</span
                  >
                }
                <span class="faded">{{ containers[choices.containerOf(target)] }}</span>
              </li>
            }
          </ul>
        }
        @if (document.sets.length) {
          <div class="row">
            <span class="faded">Shapes</span>
            <yb-choice
              class="grow"
              label="Shapes that leave"
              [options]="sets()"
              [value]="choices.set()"
              (chosen)="choices.takeSet($event)"
            />
          </div>
        }
      </section>
      <yb-waybill-panel />
      <yb-choices-panel />
      <yb-since-panel />
      <section class="panel">
        @for (finding of errors(); track finding.id) {
          <p class="stop">{{ finding.says }}</p>
        }
        @for (finding of namesToMend(); track finding.id) {
          @if ($first) {
            <p class="stop">{{ finding.says }}</p>
          }
          @if (finding.fix; as fix) {
            <button type="button" class="quiet-button" (click)="bench.apply(fix.edit)">
              {{ fix.label }}
            </button>
          }
        }
        @if (deliveries.unanswered().length) {
          <p class="stop">
            What breaks placed copies has to be answered first, for
            @for (target of deliveries.unanswered(); track target.id) {
              <button type="button" class="quiet-button" (click)="choices.show(target.id)">
                {{ target.name }}</button>{{ $last ? '.' : ', ' }}
            }
          </p>
        }
        <div class="row">
          @if (deliveries.working()) {
            <p-button label="Stop delivering" size="small" [outlined]="true" (onClick)="deliveries.stop()" />
            <span class="faded" role="status">{{ deliveries.working() }}</span>
          } @else {
            <p-button
              [label]="label()"
              size="small"
              [disabled]="
                errors().length > 0 || !choices.ready().length || deliveries.unanswered().length > 0
              "
              (onClick)="deliveries.deliver()"
              data-testid="deliver"
            />
          }
        </div>
      </section>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 14px;
    }
    :host > :empty {
      display: none;
    }
    .targets {
      margin: 0 0 6px;
      padding: 0;
      list-style: none;
    }
    .targets li {
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 0 6px;
      border-bottom: 1px dotted var(--rule);
      border-left: 3px solid transparent;
    }
    .targets .shown {
      border-left-color: var(--tide);
      background: #17616e12;
    }
    .targets button {
      flex: 1;
      min-height: 26px;
      padding: 0;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    .targets .shown button {
      font-weight: 600;
    }
    .refused {
      padding: 0 6px;
      border-left: 4px solid var(--vermilion);
    }
    .stop {
      padding: 5px 10px;
      border-left: 6px solid var(--vermilion);
      background: var(--paper);
    }
  `,
})
export class DeliverPanel {
  protected readonly bench = inject(BenchStore);
  protected readonly counted = counted;
  protected readonly choices = inject(DeliveryChoicesStore);
  protected readonly deliveries = inject(Deliveries);
  protected readonly document = toSignal(this.bench.document$);
  private readonly judged = toSignal(this.bench.judged$);
  protected readonly sets = computed((): Option<string | null>[] => {
    const { proxies, sets } = this.document()!;
    return [
      { label: `In use, ${counted(proxies.length, 'shape')}`, value: null },
      ...sets.map(({ name, proxies }) => ({
        label: `${name}, ${counted(proxies.length, 'shape')}`,
        value: name,
      })),
    ];
  });
  protected readonly containers = CONTAINER_NAMES;
  protected readonly label = computed(() => {
    const ready = this.choices.ready();
    const all = this.choices.leaving().length;
    if (!ready.length) return 'Deliver';
    if (ready.length < all) return `Deliver for ${ready.length} of ${all} targets`;
    return all === 1 ? `Deliver for ${ready[0]!.name}` : `Deliver for ${all} targets`;
  });
  /** names that one of several targets does not take: the others can be delivered for */
  protected readonly namesToMend = computed(
    () =>
      this.judged()?.findings.filter(
        ({ id, severity }) => id.startsWith('names-refused') && severity === 'warning',
      ) ?? [],
  );
  /** from all the other steps */
  protected readonly errors = computed(
    () =>
      this.judged()?.findings.filter(({ severity, step }) => severity === 'error' && step !== 'delivery') ??
      [],
  );

  protected leaves(target: string): boolean {
    return this.choices.leaving().some(({ id }) => id === target);
  }
}
