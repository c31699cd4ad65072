import type { CanDeactivateFn } from '@angular/router';

export interface Leavable {
  mayLeave(): boolean | Promise<boolean>;
}

/** Leaving what saves itself waits for the last save. */
export const leaveSaved: CanDeactivateFn<Leavable> = (page) => page.mayLeave();
