import type { CanDeactivateFn } from '@angular/router';

export interface Leavable {
  mayLeave(): boolean | Promise<boolean>;
}

/** Leaving the bench waits for the last save. */
export const leaveBench: CanDeactivateFn<Leavable> = (page) => page.mayLeave();
