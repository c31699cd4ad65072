import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  type OnDestroy,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { bundleName, type Delivery, routes } from '@yard-brace/contract';
import { Button } from 'primeng/button';
import { map } from 'rxjs';
import { Api } from '../api/api';
import { bytesText, counted, momentText } from '../shell/figures';
import { Notices } from '../shell/notices';
import { BenchStore } from './bench-store';
import { verdictOf } from './verdict';
import { FindingList } from './finding-list';
import { stepStyles } from './step-styles';

/** Out of the yard: what goes, the files, and what an importer made of them. */
@Component({
  selector: 'yb-delivery-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FindingList],
  template: `
    @if (document(); as document) {
      <section>
        <h3>What goes</h3>
        <p>
          Mesh <b class="figures">{{ document.meshName }}</b> with
          {{ document.proxies.length ? counted(document.proxies.length, 'shape') : 'no shapes' }}, its pivot
          at the origin, one file; a manifest and an import sheet beside it.
        </p>
      </section>
      <yb-finding-list step="delivery" />
      @for (finding of stops(); track finding.id) {
        <p class="stop">{{ finding.says }}</p>
      }
      <div class="row">
        @if (working()) {
          <p-button label="Stop delivering" size="small" [outlined]="true" (onClick)="stop()" />
          <span class="faded" role="status">Assembling and reading back …</span>
        } @else {
          <p-button
            [label]="'Deliver for ' + store.profile.name"
            size="small"
            [disabled]="stops().length > 0"
            (onClick)="deliver()"
            data-testid="deliver"
          />
        }
      </div>
    }
    @if (shown(); as delivery) {
      <section data-testid="read-back">
        <h3>Delivered {{ momentText(delivery.at) }}</h3>
        <ul class="files">
          @for (file of delivery.files; track file.name) {
            <li>
              <span class="figures">{{ file.name }}</span><span class="figures faded">{{
                bytesText(file.bytes)
              }}</span>
            </li>
          }
        </ul>
        <a
          class="bundle"
          [href]="bundle(delivery.id)"
          [attr.download]="bundleName(delivery)"
          data-testid="bundle"
          >Download {{ bundleName(delivery) }}</a
        >
        <h3>Read back</h3>
        <p class="verdict" [class.off]="!delivery.agreed" data-testid="verdict">
          {{ verdict(delivery) }}
        </p>
        @for (point of off(delivery); track point.point) {
          <p [class.stop]="!point.substituted">
            {{ point.point }}: {{ point.expected }} was drawn, {{ point.found }} was read.
          </p>
        }
        <ul class="remarks">
          @for (remark of delivery.readBack.changed; track $index) {
            <li>
              <span class="figures">{{ remark.name }}</span>: {{ remark.how }}
            </li>
          }
          @for (remark of delivery.readBack.ignored; track $index) {
            <li>
              <span class="figures">{{ remark.name }}</span>: {{ remark.why }}
            </li>
          }
        </ul>
        <details>
          <summary>All {{ delivery.comparison.length }} points</summary>
          <table>
            <tr>
              <th>point</th>
              <th class="number">drawn, and read back</th>
            </tr>
            @for (point of delivery.comparison; track point.point) {
              <tr [class.off]="!point.agrees">
                <td>{{ point.point }}</td>
                <td class="number figures">
                  {{ point.agrees ? point.found : point.expected + ', read ' + point.found }}
                </td>
              </tr>
            }
          </table>
        </details>
      </section>
    }
    @if (earlier().length) {
      <section>
        <h3>Earlier</h3>
        <ul class="files">
          @for (delivery of earlier(); track delivery.id) {
            <li>
              <button type="button" class="quiet-button" (click)="chosen.set(delivery.id)">
                {{ momentText(delivery.at) }}
              </button>
              <span class="faded"
                >{{ counted(delivery.readBack.shapes.length, 'shape') }},
                {{ delivery.agreed ? 'agreed' : 'differed' }}</span
              >
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .files li {
        display: flex;
        justify-content: space-between;
        gap: 8px;
        padding: 2px 0;
        border-bottom: 1px dotted var(--rule);
        overflow-wrap: anywhere;
      }
      .bundle {
        display: inline-block;
        margin: 8px 0 12px;
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
      .remarks li {
        padding: 3px 0;
        overflow-wrap: anywhere;
      }
      details {
        margin-top: 6px;
      }
      details td {
        font-size: 11px;
        overflow-wrap: anywhere;
        white-space: normal;
      }
      summary {
        cursor: pointer;
        color: var(--tide);
      }
      tr.off td {
        color: var(--vermilion);
        font-weight: 600;
      }
    `,
  ],
})
export class DeliveryStep implements OnDestroy {
  protected readonly store = inject(BenchStore);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly document = toSignal(this.store.document$);
  private readonly judged = toSignal(this.store.judged$);
  private readonly pieceId = toSignal(this.store.piece$.pipe(map((piece) => piece?.id)));
  private readonly deliveries = signal<Delivery[]>([]);
  protected readonly chosen = signal<number | null>(null);
  protected readonly working = signal(false);
  private stopper: AbortController | undefined;
  protected readonly counted = counted;
  protected readonly bytesText = bytesText;
  protected readonly momentText = momentText;
  protected readonly bundle = routes.deliveryBundle;
  protected readonly bundleName = ({ files }: Delivery) => bundleName(files.map((file) => file.name));
  protected readonly verdict = ({ comparison, agreed }: Delivery) => verdictOf(comparison, agreed);
  protected readonly off = ({ comparison }: Delivery) => comparison.filter((point) => !point.agrees);

  /** What keeps it here, from all the other steps. */
  protected readonly stops = computed(
    () =>
      this.judged()?.findings.filter(({ weight, step }) => weight === 'stop' && step !== 'delivery') ?? [],
  );
  protected readonly shown = computed(
    () => this.deliveries().find(({ id }) => id === this.chosen()) ?? this.deliveries()[0],
  );
  protected readonly earlier = computed(() =>
    this.deliveries().filter((delivery) => delivery !== this.shown()),
  );

  constructor() {
    effect(() => {
      const id = this.pieceId();
      if (id === undefined) return;
      untracked(() => {
        this.stopper?.abort();
        this.chosen.set(null);
        this.deliveries.set([]);
        void this.load(id);
      });
    });
  }

  ngOnDestroy(): void {
    this.stopper?.abort();
  }

  protected async deliver(): Promise<void> {
    const id = this.pieceId()!;
    const stopper = (this.stopper = new AbortController());
    this.working.set(true);
    try {
      const version = await this.store.settled();
      const delivery = await this.api.deliver(id, version, this.store.profile.id, stopper.signal);
      if (this.pieceId() !== id) return;
      this.deliveries.update((all) => [delivery, ...all]);
      this.chosen.set(delivery.id);
      this.store.delivered(delivery);
    } catch (error) {
      if (!stopper.signal.aborted) this.notices.error(error);
    } finally {
      this.working.set(false);
    }
  }

  protected stop(): void {
    this.stopper?.abort();
  }

  private async load(id: number): Promise<void> {
    try {
      const deliveries = await this.api.deliveries(id);
      if (this.pieceId() === id) this.deliveries.set(deliveries);
    } catch (error) {
      this.notices.error(error);
    }
  }
}
