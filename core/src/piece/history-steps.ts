import * as z from 'zod';
import { applyEdit, type Edit, editSchema } from './edits/index.js';
import type { History, HistoryOf } from './history.js';

/** How a history differs from one that is stored: a save sends this, whatever the thing weighs. */
export const historyStepsOf = <E extends z.ZodType>(edit: E) =>
  z.object({
    /** so many of the first edits have become part of the base */
    fold: z.number().int().nonnegative(),
    /** so many of the edits after those are the same */
    keep: z.number().int().nonnegative(),
    /** what follows them */
    edits: z.array(edit).max(200),
    cursor: z.number().int().nonnegative(),
  });

export const historyStepsSchema = historyStepsOf(editSchema);
export type HistorySteps = z.infer<typeof historyStepsSchema>;

/** See `historyStepsOf`. */
export interface StepsOf<E> {
  fold: number;
  keep: number;
  edits: E[];
  cursor: number;
}

/** The steps from one history to another that grew out of it; null where that cannot be told. */
export function stepsBetween<D, E>(stored: HistoryOf<D, E>, now: HistoryOf<D, E>): StepsOf<E> | null {
  const fold = stored.base === now.base ? 0 : stored.edits.indexOf(now.edits[0]!);
  if (fold < 0 || (fold === 0 && stored.base !== now.base) || fold > stored.cursor) return null;
  let keep = 0;
  while (keep < now.edits.length && stored.edits[fold + keep] === now.edits[keep]) keep++;
  return { fold, keep, edits: now.edits.slice(keep), cursor: now.cursor };
}

/** The history that steps lead to; null for steps that do not fit it. The stored one stays as it is. */
export const withSteps = (stored: History, steps: HistorySteps): History | null =>
  withStepsBy<History['base'], Edit>(stored, steps, applyEdit);

/** As `withSteps`, for edits of any kind. */
export function withStepsBy<D, E>(
  stored: HistoryOf<D, E>,
  { fold, keep, edits, cursor }: StepsOf<E>,
  apply: (thing: D, edit: E) => D,
): HistoryOf<D, E> | null {
  if (fold > stored.cursor || fold + keep > stored.edits.length) return null;
  const all = [...stored.edits.slice(fold, fold + keep), ...edits];
  if (cursor > all.length) return null;
  return {
    base: fold ? stored.edits.slice(0, fold).reduce(apply, stored.base) : stored.base,
    edits: all,
    cursor,
  };
}
