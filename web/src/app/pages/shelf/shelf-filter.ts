import type { PieceSummary } from '@yard-brace/contract';
import { type Stamp, WORKING_STEPS, type WorkingStep } from '@yard-brace/core';

export type ShelfOrder = 'name' | 'triangles' | 'open';

/** What of a shelf is shown, and in which order. */
export interface ShelfFilter {
  /** letters of the name */
  name: string;
  /** the step whose stamp is asked for; null for any of them */
  step: WorkingStep | null;
  /** the stamp that is asked for; null for any */
  stamp: Stamp | null;
  order: ShelfOrder;
}

export const ALL_PIECES: ShelfFilter = { name: '', step: null, stamp: null, order: 'name' };

const toDo = ({ tally }: PieceSummary): number =>
  WORKING_STEPS.filter((step) => tally[step] !== 'clear').length;

const byName = (a: PieceSummary, b: PieceSummary): number =>
  a.name.localeCompare(b.name, 'en', { numeric: true });

const ORDERS: Record<ShelfOrder, (a: PieceSummary, b: PieceSummary) => number> = {
  name: () => 0,
  triangles: (a, b) => b.triangles - a.triangles,
  open: (a, b) => toDo(b) - toDo(a),
};

/** The pieces that are asked for, in order; those that are alike by name. */
export function filteredShelf(
  shelf: readonly PieceSummary[],
  { name, step, stamp, order }: ShelfFilter,
): PieceSummary[] {
  const wanted = name.trim().toLowerCase();
  const steps = step ? [step] : WORKING_STEPS;
  return shelf
    .filter(
      (piece) =>
        piece.name.toLowerCase().includes(wanted) &&
        (stamp === null || steps.some((each) => piece.tally[each] === stamp)),
    )
    .sort((a, b) => ORDERS[order](a, b) || byName(a, b));
}
