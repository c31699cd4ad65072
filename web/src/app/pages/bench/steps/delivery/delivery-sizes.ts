import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import * as z from 'zod';
import { Clock } from '../../../../state/clock';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Compute } from '../../../../workers/compute';
import { type FileSize, fileSizeSchema } from '../../../../workers/messages';

/** What is chosen is weighed when it has stayed the same for so long. */
export const WEIGH_AFTER_MS = 500;

/** How large the files of the delivery that is shown will be, worked out beside everything else. */
@Injectable()
export class DeliverySizes {
  private readonly choices = inject(DeliveryChoicesStore);
  private readonly compute = inject(Compute);
  private readonly clock = inject(Clock);
  private readonly known = signal<readonly FileSize[]>([]);
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      const wanted = this.choices.toDeliver();
      untracked(() => {
        this.known.set([]);
        this.clock.clear(this.timer);
        if (wanted) this.timer = this.clock.after(WEIGH_AFTER_MS, () => void this.weigh(wanted));
      });
    });
  }

  /** Bytes of a file by its name without folders; null while that is not known. */
  of(name: string): number | null {
    return this.known().find((file) => file.name.endsWith(`/${name}`) || file.name === name)?.bytes ?? null;
  }

  /** of all files together; null while that is not known */
  get all(): number | null {
    const known = this.known();
    return known.length ? known.reduce((sum, { bytes }) => sum + bytes, 0) : null;
  }

  private async weigh(wanted: NonNullable<ReturnType<DeliveryChoicesStore['toDeliver']>>): Promise<void> {
    try {
      const sizes = await this.compute.run((jobs) => jobs.weighDelivery(wanted), {
        quick: true,
        silent: true,
      });
      if (this.choices.toDeliver() === wanted) this.known.set(z.array(fileSizeSchema).parse(sizes));
    } catch {
      // It is only not known then; delivering says what is wrong.
    }
  }
}
