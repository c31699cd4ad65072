import { DestroyRef, inject, Injectable } from '@angular/core';
import { isTyping } from './keys';

/** What Escape can leave, from the innermost outwards. */
export const ESCAPES = ['key list', 'question', 'selection', 'proposal'] as const;
export type EscapeLevel = (typeof ESCAPES)[number];

/** One Escape leaves one thing: the innermost that can be left, and nothing else. */
@Injectable({ providedIn: 'root' })
export class Escape {
  private readonly ways = new Map<EscapeLevel, () => boolean>();

  constructor() {
    const key = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !isTyping(event) && this.leave()) event.preventDefault();
    };
    document.addEventListener('keydown', key);
    inject(DestroyRef).onDestroy(() => document.removeEventListener('keydown', key));
  }

  /** @param leave true when there was something to leave */
  register(level: EscapeLevel, leave: () => boolean, destroyed = inject(DestroyRef)): void {
    this.ways.set(level, leave);
    destroyed.onDestroy(() => {
      if (this.ways.get(level) === leave) this.ways.delete(level);
    });
  }

  /** Leave the innermost thing there is; null when there is none. */
  leave(): EscapeLevel | null {
    return ESCAPES.find((level) => this.ways.get(level)?.()) ?? null;
  }
}
