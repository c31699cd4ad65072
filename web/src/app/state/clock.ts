import { Injectable } from '@angular/core';

/** Timers; specs put one here that they move by hand. */
@Injectable({ providedIn: 'root' })
export class Clock {
  after(milliseconds: number, act: () => void): ReturnType<typeof setTimeout> {
    return setTimeout(act, milliseconds);
  }

  clear(timer: ReturnType<typeof setTimeout> | undefined): void {
    clearTimeout(timer);
  }
}
