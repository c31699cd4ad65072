import { Injectable } from '@angular/core';
import { Clock } from '../state/clock';

/** A clock that a spec moves by hand. */
@Injectable()
export class HandClock extends Clock {
  private now = 0;
  private last = 0;
  private readonly waiting = new Map<number, { at: number; act: () => void }>();

  override after(milliseconds: number, act: () => void): ReturnType<typeof setTimeout> {
    this.waiting.set(++this.last, { at: this.now + milliseconds, act });
    return this.last as unknown as ReturnType<typeof setTimeout>;
  }

  override clear(timer: ReturnType<typeof setTimeout> | undefined): void {
    this.waiting.delete(timer as unknown as number);
  }

  /** Time goes on; what was due is done in its order, with what it waits for. */
  async move(milliseconds: number): Promise<void> {
    const until = this.now + milliseconds;
    for (;;) {
      const [next] = [...this.waiting].filter(([, { at }]) => at <= until).sort((a, b) => a[1].at - b[1].at);
      if (!next) break;
      this.waiting.delete(next[0]);
      this.now = next[1].at;
      next[1].act();
      await settle();
    }
    this.now = until;
    await settle();
  }
}

/** Everything that only waits for promises has happened. */
export const settle = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};
