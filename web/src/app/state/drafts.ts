import { Injectable } from '@angular/core';
import { historySchema, historyStepsSchema } from '@yard-brace/core';
import * as z from 'zod';

/** What is not on the server yet: the steps since a version, or the whole history where that cannot be told. */
const draftSchema = z.object({
  version: z.number(),
  steps: historyStepsSchema.optional(),
  history: historySchema.optional(),
});
export type Draft = z.infer<typeof draftSchema>;

/** Changes that are not on the server yet, kept in the browser so that a closed tab or a crash loses nothing. */
@Injectable({ providedIn: 'root' })
export class Drafts {
  /** False when the browser's store is full or forbidden: then only this window holds the change. */
  put(id: number, draft: Draft): boolean {
    try {
      localStorage.setItem(key(id), JSON.stringify(draft));
      return true;
    } catch {
      // An older draft would bring back an older state.
      this.drop(id);
      return false;
    }
  }

  take(id: number): Draft | null {
    try {
      const text = localStorage.getItem(key(id));
      return text ? draftSchema.parse(JSON.parse(text)) : null;
    } catch {
      return null;
    }
  }

  drop(id: number): void {
    localStorage.removeItem(key(id));
  }
}

const key = (id: number) => `yard-brace.draft.${id}`;
