import type { PieceSummary } from '@yard-brace/contract';
import { type Stamp, WORKING_STEPS, type WorkingStep } from '@yard-brace/core';
import * as z from 'zod';

export const SHELF_ORDERS = ['name', 'triangles', 'open'] as const;
export type ShelfOrder = (typeof SHELF_ORDERS)[number];

/** How a piece stands to what left of it. */
export const LEFT_STATES = ['never', 'differs', 'changed', 'up to date'] as const;
export type LeftState = (typeof LEFT_STATES)[number];

const STAMPS = ['clear', 'look', 'stopped', 'none'] as const satisfies readonly Stamp[];

/** What of a shelf is shown, and in which order. */
export const shelfFilterSchema = z.object({
  /** letters of the name, of its mesh's or its file's */
  name: z.string().max(200),
  /** the step whose stamp is asked for; null for any of them */
  step: z.enum(WORKING_STEPS).nullable(),
  /** the stamp that is asked for; null for any */
  stamp: z.enum(STAMPS).nullable(),
  /** how it stands to what left; null for any */
  left: z.enum(LEFT_STATES).nullable(),
  /** shapes and art lie farther apart than so many metres; null for any */
  apartMetres: z.number().nonnegative().nullable(),
  order: z.enum(SHELF_ORDERS),
});
export type ShelfFilter = z.infer<typeof shelfFilterSchema>;

export const ALL_PIECES: ShelfFilter = {
  name: '',
  step: null as WorkingStep | null,
  stamp: null,
  left: null,
  apartMetres: null,
  order: 'name',
};

const toDo = ({ tally }: PieceSummary): number =>
  WORKING_STEPS.filter((step) => tally[step] !== 'clear').length;

const collator = new Intl.Collator('en', { numeric: true });
const byName = (a: PieceSummary, b: PieceSummary): number => collator.compare(a.name, b.name);

const ORDERS: Record<ShelfOrder, (a: PieceSummary, b: PieceSummary) => number> = {
  name: () => 0,
  triangles: (a, b) => b.triangles - a.triangles,
  open: (a, b) => toDo(b) - toDo(a),
};

/** How a piece stands to what left of it, the worst of its targets. */
export function leftState({ delivered }: Pick<PieceSummary, 'delivered'>): LeftState {
  if (!delivered.length) return 'never';
  if (delivered.some(({ agreed }) => !agreed)) return 'differs';
  return delivered.some(({ changed }) => changed) ? 'changed' : 'up to date';
}

/** The pieces that are asked for, in order; those that are alike by name. */
export function filteredShelf(
  shelf: readonly PieceSummary[],
  { name, step, stamp, left, apartMetres, order }: ShelfFilter,
): PieceSummary[] {
  const wanted = name.trim().toLowerCase();
  const steps = step ? [step] : WORKING_STEPS;
  const named = (piece: PieceSummary) =>
    [piece.name, piece.meshName, piece.cameFrom].some((each) => each.toLowerCase().includes(wanted));
  return shelf
    .filter(
      (piece) =>
        (wanted === '' || named(piece)) &&
        (stamp === null || steps.some((each) => piece.tally[each] === stamp)) &&
        (left === null || leftState(piece) === left) &&
        (apartMetres === null || (piece.deviation ?? 0) > apartMetres),
    )
    .sort((a, b) => ORDERS[order](a, b) || byName(a, b));
}
