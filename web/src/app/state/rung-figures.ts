import {
  type Agent,
  clearanceShape,
  deviationOf,
  type Ladder,
  openClearances,
  type PieceDocument,
  type Rung,
  type Shape,
  type ShapeComparison,
} from '@yard-brace/core';
import type { Figure } from './proposals';
import { NOTHING, setFigures } from './set-figures';

/** A run of the ladder, and where on it the person stands. */
export interface ShownLadder extends Ladder {
  agent: Agent | null;
  /** for chosen faces: the whole set with each rung in it; null when all the art is broken up */
  whole: readonly ShapeComparison[] | null;
  /** how what is there now was measured; null when there are no shapes */
  now: ShapeComparison | null;
  /** number of the rung that is shown */
  at: number;
}

/** The clearances of a piece as shapes that nothing may enter. */
export const clearanceShapes = ({ clearances }: Pick<PieceDocument, 'clearances'>): Shape[] =>
  clearances.map(clearanceShape);

/** How far a rung is off, for the chart: millimetres. */
export const millimetresOff = (rung: Rung): number => deviationOf(rung) * 1000;

/** The rung that is shown beside what is there now: like with like, the whole set before and after, and the area by itself. */
export function rungFigures(
  { rungs, at, now, whole, agent }: ShownLadder,
  document: PieceDocument,
): Figure[] {
  const { shapes, figures } = rungs[at]!;
  const clearances = clearanceShapes(document);
  const open = (set: readonly Shape[]) => openClearances(clearances, set).filter(Boolean).length;
  const felt = agent?.detail ?? 0;
  const rows = setFigures(now, whole?.[at] ?? figures, felt);
  if (whole)
    rows.push(
      ...setFigures(null, figures, felt)
        .filter(({ name }) => name === 'Excess' || name === 'Uncovered')
        .map((row) => ({ ...row, name: `${row.name} of the area`, now: '' })),
    );
  if (clearances.length === 0) return rows;
  const free = open(shapes);
  const text = (count: number) => `${count} of ${clearances.length}`;
  const before = document.proxies.map(({ shape }) => shape);
  return [
    ...rows,
    {
      name: 'Openings kept free',
      now: now ? text(open(before)) : NOTHING,
      next: text(free),
      good: free === clearances.length,
    },
  ];
}
