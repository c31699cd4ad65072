import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  numberAttribute,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { type Delivery, type DeliveryEntry, routes } from '@yard-brace/contract';
import {
  bytesText,
  changesBetween,
  counted,
  countText,
  targetsOf,
  type TargetProfile,
} from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Api } from '../../api/api';
import { Notices } from '../../state/notices';
import { ShelfStore } from '../../state/shelf-store';
import { Check } from '../../ui/check';
import { Choice, type Option } from '../../ui/choice';
import { DropFiles } from '../../ui/drop-files';
import { Header } from '../../ui/header';
import { momentText } from '../../ui/moment';
import { Segments } from '../../ui/segments';
import { YardPlaces } from '../../ui/yard-places';
import { bookDays, type BookFilter, verdictText, WHOLE_BOOK } from './dispatch-book';
import { ForeignPanel } from './foreign-panel';
import { ReadBackPanel } from './read-back-panel';
import { type StateOfPiece, StatesBeside } from './states-beside';

const VERDICTS: Option<BookFilter['verdict']>[] = [
  { label: 'All', value: 'all' },
  { label: 'Agreed', value: 'agreed' },
  { label: 'Differed', value: 'differed' },
];

/** What left the yard, day by day: each with its files and what was read back; two can be compared. */
@Component({
  selector: 'yb-deliveries-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Check,
    Choice,
    DropFiles,
    ForeignPanel,
    FormsModule,
    Header,
    InputText,
    ReadBackPanel,
    RouterLink,
    Segments,
    StatesBeside,
    YardPlaces,
  ],
  templateUrl: './deliveries-page.html',
  styleUrl: './deliveries-page.css',
})
export class DeliveriesPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly shelf = inject(ShelfStore);
  readonly yardId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  private readonly entries = signal<readonly DeliveryEntry[]>([]);
  protected readonly loaded = signal(false);
  protected readonly more = signal(0);
  protected readonly filter = signal(WHOLE_BOOK);
  protected readonly opened = signal<Delivery | null>(null);
  private readonly ticked = signal<readonly number[]>([]);
  protected readonly foreign = signal<readonly File[]>([]);
  protected readonly verdicts = VERDICTS;
  protected readonly bundle = routes.deliveryBundle;
  protected readonly fileOf = routes.deliveryFile;
  protected readonly counted = counted;
  protected readonly countText = countText;
  protected readonly bytesText = bytesText;
  protected readonly verdictText = verdictText;
  protected readonly days = computed(() => bookDays(this.entries(), this.filter()));
  protected readonly targets = computed((): Option<string | null>[] => [
    { label: 'All targets', value: null },
    ...[...new Map(this.entries().map(({ target, targetName }) => [target, targetName]))].map(
      ([value, label]) => ({
        label,
        value,
      }),
    ),
  ]);
  protected readonly own = computed((): TargetProfile[] => {
    const yard = this.yard();
    return yard
      ? targetsOf(yard.rules).filter(({ id }) => yard.rules.profiles.some((own) => own.id === id))
      : [];
  });
  /** the two that are ticked, the older first, and what changed between them */
  protected readonly compared = computed(() => {
    const [a, b] = this.ticked()
      .map((id) => this.entries().find((entry) => entry.id === id))
      .filter((entry) => entry !== undefined)
      .sort((x, y) => x.id - y.id);
    if (!a || !b) return null;
    const changes = a.inventory && b.inventory ? changesBetween(a.inventory, b.inventory) : null;
    const title = (entry: DeliveryEntry) =>
      `${entry.piece.name} for ${entry.targetName}, ${momentText(entry.at)}`;
    const states = [a, b].map((entry) => ({
      title: title(entry),
      piece: entry.piece.id,
      version: entry.version,
    })) as [StateOfPiece, StateOfPiece];
    return { title: `${title(a)} → ${title(b)}`, changes, states };
  });

  /** the delivery that is seen beside its piece as it is today */
  private readonly lookedAt = signal<number | null>(null);
  protected readonly besideToday = computed((): [StateOfPiece, StateOfPiece] | null => {
    const delivery = this.opened();
    if (!delivery || this.lookedAt() !== delivery.id) return null;
    const { id: piece, name } = delivery.piece;
    return [
      { title: `${name} as it left, ${momentText(delivery.at)}`, piece, version: delivery.version },
      { title: `${name} today`, piece, version: null },
    ];
  });

  constructor() {
    effect(() => {
      const id = this.yardId();
      untracked(() => {
        this.entries.set([]);
        this.shelf.load(id).catch((error: unknown) => this.notices.error(error));
        void this.load();
      });
    });
  }

  protected clock(iso: string): string {
    return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  }

  protected dropped(input: HTMLInputElement): void {
    this.foreign.set([...(input.files ?? [])]);
    input.value = '';
  }

  protected seek(change: Partial<BookFilter>): void {
    this.filter.update((filter) => ({ ...filter, ...change }));
  }

  protected isTicked(id: number): boolean {
    return this.ticked().includes(id);
  }

  /** Two at most: the one ticked first goes. */
  protected tick(id: number, on: boolean): void {
    this.ticked.update((ids) => (on ? [...ids, id].slice(-2) : ids.filter((each) => each !== id)));
  }

  protected async open(id: number): Promise<void> {
    if (this.opened()?.id === id) {
      this.opened.set(null);
      return;
    }
    try {
      this.opened.set(await this.api.delivery(id));
    } catch (error) {
      this.notices.error(error);
    }
  }

  protected lookAt(id: number): void {
    this.lookedAt.update((shown) => (shown === id ? null : id));
  }

  protected differing(delivery: Delivery) {
    return delivery.comparison.filter(({ agrees }) => !agrees);
  }

  protected async load(): Promise<void> {
    try {
      const { entries, more } = await this.api.deliveryBook(this.yardId(), this.entries().at(-1)?.id);
      this.entries.update((all) => [...all, ...entries]);
      this.more.set(more);
      this.loaded.set(true);
    } catch (error) {
      this.notices.error(error);
    }
  }
}
