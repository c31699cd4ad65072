import { computed, effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Delivery, DeliveryPlace } from '@yard-brace/contract';
import { changesBetween, type DeliveryChange, inventoryOf, replaces } from '@yard-brace/core';
import { map } from 'rxjs';
import { Api, ApiError } from '../../../../api/api';
import { BenchStore } from '../../../../state/bench-store';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Notices } from '../../../../state/notices';

/** The deliveries of the piece on the bench, and the one that is shown. */
@Injectable()
export class Deliveries implements OnDestroy {
  private readonly api = inject(Api);
  private readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  private readonly pieceId = toSignal(this.bench.piece$.pipe(map((piece) => piece?.id)));
  private readonly measured = toSignal(this.bench.measured$);
  private readonly all = signal<readonly Delivery[]>([]);
  private readonly older = signal(0);
  private readonly chosen = signal<number | null>(null);
  private readonly choices = inject(DeliveryChoicesStore);
  private readonly busy = signal<string | null>(null);
  /** what is being done, for the person; null when nothing is */
  readonly working = this.busy.asReadonly();
  readonly shown = computed(() => this.all().find(({ id }) => id === this.chosen()) ?? this.all()[0] ?? null);
  /** how many older ones were not loaded yet */
  readonly more = this.older.asReadonly();
  readonly others = computed(() => this.all().filter((delivery) => delivery !== this.shown()));
  /** changes that break placed copies, by target, that a person has seen to */
  private readonly answers = signal<ReadonlySet<string>>(new Set());
  /** targets for which something that breaks placed copies was not answered */
  readonly unanswered = computed(() =>
    this.choices
      .ready()
      .filter(({ id }) =>
        this.changesFor(id).some(({ says, breaks }) => breaks && !this.isAnswered(id, says)),
      ),
  );
  private readonly changes = computed(
    () =>
      new Map(
        this.choices.targets().map(({ id }) => {
          const last = this.lastFor(id);
          const plan = this.choices.planFor(id);
          return [
            id,
            last?.inventory && plan ? changesBetween(last.inventory, inventoryOf(plan, this.measured())) : [],
          ];
        }),
      ),
  );
  private readonly places = signal<Readonly<Record<string, DeliveryPlace>>>({});
  /** where the delivery that is shown would be put, and what stands there */
  readonly place = computed(() => this.places()[this.choices.shown()?.id ?? ''] ?? null);
  private stopper: AbortController | undefined;

  constructor() {
    effect(() => {
      const [id, target] = [this.pieceId(), this.choices.shown()?.id];
      if (id !== undefined && target !== undefined) untracked(() => void this.askPlace(id, target));
    });
    effect(() => {
      const id = this.pieceId();
      if (id === undefined) return;
      untracked(() => {
        this.stop();
        this.chosen.set(null);
        this.all.set([]);
        this.older.set(0);
        this.answers.set(new Set());
        this.places.set({});
        void this.load(id);
      });
    });
  }

  /** The newest delivery for a target that what goes now replaces, and that says what it held. */
  lastFor(target: string): Delivery | null {
    const now = this.choices.choicesFor(target);
    return (
      this.all().find(
        ({ target: to, choices, inventory }) => to === target && inventory && replaces(now, choices),
      ) ?? null
    );
  }

  /** What is otherwise than in the last delivery for a target; nothing where there was none. */
  changesFor(target: string): readonly DeliveryChange[] {
    return this.changes().get(target) ?? [];
  }

  /** Numbers of the variants that left for a target, in their order. */
  variantsFor(target: string): number[] {
    const left = this.all().flatMap(({ target: to, choices: { variant } }) =>
      to === target && variant !== undefined ? [variant] : [],
    );
    return [...new Set(left)].sort((a, b) => a - b);
  }

  isAnswered(target: string, says: string): boolean {
    return this.answers().has(`${target} ${says}`);
  }

  answer(target: string, says: string, seen: boolean): void {
    const answers = new Set(this.answers());
    if (seen) answers.add(`${target} ${says}`);
    else answers.delete(`${target} ${says}`);
    this.answers.set(answers);
  }

  ngOnDestroy(): void {
    this.stop();
  }

  show(id: number): void {
    this.chosen.set(id);
  }

  /** Deliver for all targets that are chosen, one after the other. */
  async deliver(): Promise<void> {
    const id = this.pieceId()!;
    const stopper = (this.stopper = new AbortController());
    this.busy.set('Saving …');
    try {
      const version = await this.bench.settled();
      for (const { id: target, name } of this.choices.ready()) {
        this.busy.set(`Assembling for ${name} and reading back …`);
        const choices = this.choices.choicesFor(target);
        const delivery = await this.api
          .deliver(id, { version, target, choices, answered: true }, stopper.signal)
          .catch((error: unknown) => {
            // What one target refuses keeps nobody else from getting it.
            if (stopper.signal.aborted || !(error instanceof ApiError)) throw error;
            this.notices.say(`${name}: ${error.message}`, true);
            return null;
          });
        if (this.pieceId() !== id) return;
        if (!delivery) continue;
        this.all.update((all) => [delivery, ...all]);
        this.chosen.set(delivery.id);
        this.bench.delivered(delivery);
        void this.askPlace(id, target);
      }
    } catch (error) {
      if (!stopper.signal.aborted) this.notices.error(error);
    } finally {
      this.busy.set(null);
    }
  }

  stop(): void {
    this.stopper?.abort();
  }

  /** Load the next older ones. */
  async loadMore(): Promise<void> {
    const id = this.pieceId();
    if (id !== undefined) await this.load(id);
  }

  private async askPlace(id: number, target: string): Promise<void> {
    try {
      const place = await this.api.deliveryPlace(id, target);
      if (this.pieceId() === id) this.places.update((places) => ({ ...places, [target]: place }));
    } catch (error) {
      this.notices.error(error);
    }
  }

  private async load(id: number): Promise<void> {
    try {
      const { deliveries, more } = await this.api.deliveries(id, this.all().at(-1)?.id);
      if (this.pieceId() !== id) return;
      this.all.update((all) => [...all, ...deliveries]);
      this.older.set(more);
    } catch (error) {
      this.notices.error(error);
    }
  }
}
