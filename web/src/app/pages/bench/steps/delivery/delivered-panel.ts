import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { bundleName, routes } from '@yard-brace/contract';
import { bytesText, counted } from '@yard-brace/core';
import { Api } from '../../../../api/api';
import { BenchStore } from '../../../../state/bench-store';
import { Notices } from '../../../../state/notices';
import { type ReadBackShapes, readBackShapes } from '../../../../state/read-back-shapes';
import { ViewMarks } from '../../../../state/view-marks';
import { Disclosure } from '../../../../ui/disclosure';
import { FactTable } from '../../../../ui/fact-table';
import { momentText } from '../../../../ui/moment';
import { Deliveries } from './deliveries';
import { verdictOf } from './verdict';

/** One delivery: its files, and what was read back from their bytes. */
@Component({
  selector: 'yb-delivered-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Disclosure, FactTable, RouterLink],
  template: `
    @if (shown(); as delivery) {
      <section class="panel" data-testid="read-back">
        <h3>
          Delivered {{ momentText(delivery.at) }} for {{ target()
          }}{{ delivery.choices.set ? ', the set “' + delivery.choices.set + '”' : '' }}
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
        <div class="files">
          <a class="bundle" [href]="bundle(delivery.id)" [attr.download]="name()" data-testid="bundle"
            >Download {{ name() }}</a
          >
          <a [routerLink]="['/deliveries', delivery.id, 'sheet']">Sheet to print</a>
        </div>
        <div class="row">
          <h3 class="grow">Read back</h3>
          <button
            type="button"
            class="quiet-button"
            [attr.aria-pressed]="inView()"
            (click)="show(delivery.id)"
            data-testid="show-read-back"
          >
            {{ inView() ? 'Show the piece’s own shapes' : 'Show in the view' }}
          </button>
        </div>
        @if (inView(); as shown) {
          <p class="faded">{{ shownText(shown) }}</p>
        }
        <p class="verdict" [class.off]="!delivery.agreed" data-testid="verdict">{{ verdict() }}</p>
        @for (point of off(); track point.point) {
          <p [class.stop]="!point.substituted">
            {{ point.point }}: drawn {{ point.expected }}, read {{ point.found }}.
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
    .files {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
      margin: 4px 0 8px;
    }
    .bundle {
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
export class DeliveredPanel implements OnDestroy {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly marks = inject(ViewMarks);
  private readonly bench = inject(BenchStore);
  protected readonly inView = toSignal(this.marks.readBack$);
  protected readonly shown = inject(Deliveries).shown;
  protected readonly bytesText = bytesText;
  protected readonly momentText = momentText;
  protected readonly bundle = routes.deliveryBundle;
  protected readonly target = computed(
    () => this.shown()!.profile?.name ?? this.shown()!.target.replaceAll('-', ' '),
  );
  protected readonly name = computed(() => {
    const { files, choices } = this.shown()!;
    return bundleName(
      files.map((file) => file.name),
      choices,
    );
  });
  protected readonly verdict = computed(() => verdictOf(this.shown()!.comparison, this.shown()!.agreed));
  protected readonly off = computed(() => this.shown()!.comparison.filter(({ agrees }) => !agrees));
  ngOnDestroy(): void {
    this.marks.showReadBack(null);
  }

  protected shownText({ shapes, changed }: ReadBackShapes): string {
    const all = `The view shows ${counted(shapes.length, 'shape')} as the importer has ${shapes.length === 1 ? 'it' : 'them'}`;
    return changed.size ? `${all}; red are those that it changed or made up.` : `${all}; it changed none.`;
  }

  /** The shapes of the bytes that left, over the art; pressed again, the piece's own. */
  protected async show(id: number): Promise<void> {
    if (this.inView()) {
      this.marks.showReadBack(null);
      return;
    }
    try {
      const { readBack } = await this.api.delivery(id);
      this.marks.showReadBack(readBackShapes(readBack, this.bench.document));
    } catch (error) {
      this.notices.error(error);
    }
  }

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
