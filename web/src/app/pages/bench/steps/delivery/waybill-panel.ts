import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { bytesText, CONTAINER_NAMES, counted, listText, lossText, type WaybillFile } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Deliveries } from './deliveries';
import { DeliverySizes } from './delivery-sizes';

/** Faults that are written out; the rest are counted. */
const MOST_FAULTS = 3;
const KINDS: Record<string, string> = { box: 'boxes' };

/** What will be in a file, in a line. */
export function contentsText({ parts, objects, shapes, materials, pictures }: WaybillFile): string {
  const said = [
    ...(parts ? [counted(parts, 'part')] : []),
    ...shapes.map(({ kind, count }) => counted(count, kind, KINDS[kind])),
    ...(materials ? [counted(materials, 'material')] : []),
    ...(pictures ? [counted(pictures, 'picture')] : []),
  ];
  return `${said.join(', ')}: ${counted(objects, 'object')}`;
}

/** What goes for one target, in which files, and what the target drops or changes of it. */
@Component({
  selector: 'yb-waybill-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (refused(); as says) {
      <section class="panel">
        <p class="stop">{{ says }}</p>
      </section>
    }
    @if (waybill(); as waybill) {
      <section class="panel" data-testid="waybill">
        <h3>What goes for {{ waybill.plan.profile.name }}</h3>
        <ul class="list">
          @for (file of waybill.files; track file.name) {
            <li>
              <span class="line"
                ><span class="figures name">{{ file.name }}</span
                ><span class="figures faded">{{ sizeOf(file.name) }}</span></span
              ><span class="faded">{{ contents(file) }}</span>
            </li>
          }
          <li>
            <span class="figures name">{{ waybill.plan.document.meshName }}.manifest.json, .import.md</span
            ><span class="faded">where everything was; how it is imported</span>
          </li>
        </ul>
        <p class="faded">
          {{ containers[waybill.plan.choices.container] }} for a target in
          {{ waybill.plan.profile.space.unit }}, {{ waybill.plan.profile.space.up.toUpperCase() }} up,
          {{ waybill.plan.profile.space.handedness }}-handed.
          @if (sizes.all; as bytes) {
            {{ bytesText(bytes) }} in all.
          }
          @if (aside(); as parts) {
            {{ parts }} set aside and staying here.
          }
        </p>
        @if (deliveries.place(); as place) {
          @if (place.place !== null) {
            <p class="faded" data-testid="place">
              Goes into <span class="figures">{{ place.place }}</span>{{ replaces(place.standing) }}
            </p>
          }
        }
        @for (fault of waybill.faults.says.slice(0, most); track $index) {
          <p class="stop">{{ fault }}</p>
        }
        @if (waybill.faults.says.length > most) {
          <p class="faded">And {{ counted(waybill.faults.says.length - most, 'more name') }}.</p>
        }
        @for (fix of waybill.faults.fixes; track fix.label) {
          <button type="button" class="quiet-button" (click)="bench.apply(fix.edit)">{{ fix.label }}</button>
        }
        @if (waybill.losses.length) {
          <h3>Dropped or changed</h3>
          <ul class="losses" data-testid="losses">
            @for (loss of waybill.losses; track $index) {
              <li>{{ lossText(loss) }}</li>
            }
          </ul>
        } @else {
          <p class="whole">Nothing is dropped or changed.</p>
        }
      </section>
    }
  `,
  styles: `
    .list li {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 0;
      padding: 3px 0;
    }
    .line {
      display: flex;
      align-self: stretch;
      justify-content: space-between;
      gap: 8px;
      white-space: nowrap;
    }
    .name {
      overflow-wrap: anywhere;
      white-space: normal;
    }
    .losses {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .losses li {
      margin-bottom: 3px;
      padding: 4px 10px;
      border-left: 3px solid var(--brass);
      background: var(--paper);
    }
    .whole {
      padding: 4px 10px;
      border-left: 3px solid var(--moss);
      background: var(--paper);
    }
    .stop {
      padding: 5px 10px;
      border-left: 6px solid var(--vermilion);
      background: var(--paper);
    }
  `,
})
export class WaybillPanel {
  private readonly choices = inject(DeliveryChoicesStore);
  protected readonly bench = inject(BenchStore);
  protected readonly deliveries = inject(Deliveries);
  protected readonly sizes = inject(DeliverySizes);
  protected readonly bytesText = bytesText;
  protected readonly counted = counted;
  protected readonly most = MOST_FAULTS;
  protected readonly contents = contentsText;
  protected readonly containers = CONTAINER_NAMES;
  protected readonly lossText = lossText;
  private readonly shown = this.choices.waybill;
  protected readonly waybill = computed(() => {
    const shown = this.shown();
    return typeof shown === 'string' ? null : shown;
  });
  protected readonly refused = computed(() => {
    const shown = this.shown();
    return typeof shown === 'string' ? shown : null;
  });
  protected sizeOf(name: string): string {
    const bytes = this.sizes.of(name);
    return bytes === null ? '' : bytesText(bytes);
  }

  /** What stands in the folder already, and what of it is replaced. */
  protected replaces(standing: readonly string[]): string {
    const bases = standing.map((name) => name.slice(name.lastIndexOf('/') + 1));
    const files = this.waybill()!.files.filter(({ name }) => bases.includes(name));
    if (files.length) return `, and replaces ${listText(files.map(({ name }) => name))}.`;
    return standing.length ? `, beside ${counted(standing.length, 'other file')}.` : '.';
  }

  protected readonly aside = computed(() => {
    const count = this.waybill()!.plan.document.nodes.filter(
      ({ aside, mesh }) => aside && mesh !== null,
    ).length;
    return count ? `${counted(count, 'part')} ${count === 1 ? 'is' : 'are'}` : '';
  });
}
