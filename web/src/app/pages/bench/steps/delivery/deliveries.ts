import { computed, effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Delivery } from '@yard-brace/contract';
import { map } from 'rxjs';
import { Api } from '../../../../api/api';
import { BenchStore } from '../../../../state/bench-store';
import { Notices } from '../../../../state/notices';

/** The deliveries of the piece on the bench, and the one that is shown. */
@Injectable()
export class Deliveries implements OnDestroy {
  private readonly api = inject(Api);
  private readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  private readonly pieceId = toSignal(this.bench.piece$.pipe(map((piece) => piece?.id)));
  private readonly all = signal<readonly Delivery[]>([]);
  private readonly older = signal(0);
  private readonly chosen = signal<number | null>(null);
  private readonly busy = signal(false);
  readonly working = this.busy.asReadonly();
  readonly shown = computed(() => this.all().find(({ id }) => id === this.chosen()) ?? this.all()[0] ?? null);
  /** how many older ones were not loaded yet */
  readonly more = this.older.asReadonly();
  readonly others = computed(() => this.all().filter((delivery) => delivery !== this.shown()));
  private stopper: AbortController | undefined;

  constructor() {
    effect(() => {
      const id = this.pieceId();
      if (id === undefined) return;
      untracked(() => {
        this.stop();
        this.chosen.set(null);
        this.all.set([]);
        this.older.set(0);
        void this.load(id);
      });
    });
  }

  ngOnDestroy(): void {
    this.stop();
  }

  show(id: number): void {
    this.chosen.set(id);
  }

  /** @param set a set that is kept beside the one in use; null for the one in use */
  async deliver(set: string | null = null): Promise<void> {
    const id = this.pieceId()!;
    const stopper = (this.stopper = new AbortController());
    this.busy.set(true);
    try {
      const version = await this.bench.settled();
      const delivery = await this.api.deliver(
        id,
        { version, target: this.bench.profile.id, ...(set === null ? {} : { set }) },
        stopper.signal,
      );
      if (this.pieceId() !== id) return;
      this.all.update((all) => [delivery, ...all]);
      this.chosen.set(delivery.id);
      this.bench.delivered(delivery);
    } catch (error) {
      if (!stopper.signal.aborted) this.notices.error(error);
    } finally {
      this.busy.set(false);
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
