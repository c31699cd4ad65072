import { Injectable } from '@angular/core';
import { historySchema, historyStepsSchema, setOutHistorySchema } from '@yard-brace/core';
import * as z from 'zod';

/** What is not on the server yet: the steps since a version, or the whole history where that cannot be told. */
const draftSchema = z.object({
  version: z.number(),
  steps: historyStepsSchema.optional(),
  history: historySchema.optional(),
});
export type Draft = z.infer<typeof draftSchema>;

const setOutDraftSchema = z.object({ version: z.number(), history: setOutHistorySchema });

/** Changes that are not on the server yet, kept in the browser so that a closed tab or a crash loses nothing. */
abstract class DraftsOf<T> {
  protected abstract readonly schema: z.ZodType<T>;
  protected abstract key(id: number): string;

  /** False when the browser's store is full or forbidden: then only this window holds the change. */
  put(id: number, draft: T): boolean {
    try {
      localStorage.setItem(this.key(id), JSON.stringify(draft));
      return true;
    } catch {
      // An older draft would bring back an older state.
      this.drop(id);
      return false;
    }
  }

  take(id: number): T | null {
    try {
      const text = localStorage.getItem(this.key(id));
      return text ? this.schema.parse(JSON.parse(text)) : null;
    } catch {
      return null;
    }
  }

  drop(id: number): void {
    localStorage.removeItem(this.key(id));
  }
}

/** Of pieces. */
@Injectable({ providedIn: 'root' })
export class Drafts extends DraftsOf<Draft> {
  protected readonly schema = draftSchema;
  protected key = (id: number): string => `yard-brace.draft.${id}`;
}

/** Of set-outs: whole histories, as the server keeps no older version of them to which steps could be laid. */
@Injectable({ providedIn: 'root' })
export class SetOutDrafts extends DraftsOf<z.infer<typeof setOutDraftSchema>> {
  protected readonly schema = setOutDraftSchema;
  protected key = (id: number): string => `yard-brace.draft.set-out-${id}`;
}
