import { signal } from '@angular/core';
import { type DisplayUnit, showLengthsIn } from '@yard-brace/core';

const now = signal<DisplayUnit>('m');
/** In which lengths are shown and typed: what a person looks at follows the rules of one yard at a time. */
export const shownUnit = now.asReadonly();

export function showYardIn(unit: DisplayUnit): void {
  showLengthsIn(unit);
  now.set(unit);
}
