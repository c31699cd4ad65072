import * as z from 'zod';
import { historyStepsOf, type HistoryOf, type StepsOf, withEdit, withStepsBy } from '../piece/index.js';
import { applyToSetOut, type SetOutEdit, setOutEditSchema } from './put-placements.js';
import { type SetOut, setOutSchema } from './set-out.js';

/** A set-out as it was, plus the changes since; those after the cursor are undone and can come back. */
export const setOutHistorySchema = z
  .object({
    base: setOutSchema,
    edits: z.array(setOutEditSchema).max(200),
    cursor: z.number().int().nonnegative(),
  })
  .refine(({ edits, cursor }) => cursor <= edits.length, 'the cursor stands behind the last edit');
export type SetOutHistory = HistoryOf<SetOut, SetOutEdit>;

export const setOutStepsSchema = historyStepsOf(setOutEditSchema);
export type SetOutSteps = StepsOf<SetOutEdit>;

const BYTES_OF_A_PLACEMENT = 250;
const BYTES_OF_AN_ID = 10;

const weightOf = (edit: SetOutEdit): number =>
  edit.kind === 'rename'
    ? edit.name.length
    : edit.changed.length * BYTES_OF_A_PLACEMENT + edit.removed.length * BYTES_OF_AN_ID;

export const startSetOut = (base: SetOut): SetOutHistory => ({ base, edits: [], cursor: 0 });

const known = new WeakMap<SetOutHistory, SetOut>();

/** The set-out that a history leads to: the same object each time it is asked for, worked out once. */
export function currentSetOut(history: SetOutHistory): SetOut {
  const before = known.get(history);
  if (before) return before;
  const { base, edits, cursor } = history;
  const setOut = edits.slice(0, cursor).reduce(applyToSetOut, base);
  known.set(history, setOut);
  return setOut;
}

/** The history with one more change; what was undone is dropped. */
export function pushSetOutEdit(history: SetOutHistory, edit: SetOutEdit): SetOutHistory {
  const next = withEdit(history, edit, { apply: applyToSetOut, weightOf });
  known.set(next, applyToSetOut(currentSetOut(history), edit));
  return next;
}

/** The history that sent steps lead to; null for steps that do not fit it. */
export const withSetOutSteps = (stored: SetOutHistory, steps: SetOutSteps): SetOutHistory | null =>
  withStepsBy(stored, steps, applyToSetOut);

/** What keeps a set-out from being opened again, as the schema finds it; null when nothing does. */
export const setOutFault = (history: SetOutHistory): z.core.$ZodIssue | null =>
  setOutHistorySchema.safeParse(history).error?.issues[0] ??
  setOutSchema.safeParse(currentSetOut(history)).error?.issues[0] ??
  null;
