import { DestroyRef, inject, signal, type Signal } from '@angular/core';

/**
 * True from the next task on: what stands below in a long step is made then, so that what stands above is there at once.
 * Called where a component is made.
 */
export function nextTask(): Signal<boolean> {
  const come = signal(false);
  const timer = setTimeout(() => come.set(true));
  inject(DestroyRef).onDestroy(() => clearTimeout(timer));
  return come.asReadonly();
}
