import {
  type Agent,
  countText,
  deviationOf,
  type Ladder,
  lengthText,
  openClearances,
  type PieceDocument,
  type Rung,
  type Shape,
  type ShapeComparison,
  volumeText,
} from '@yard-brace/core';
import type { Figure } from './proposals';

/** A run of the ladder, and where on it the person stands. */
export interface ShownLadder extends Ladder {
  agent: Agent | null;
  /** only for some faces: kept shapes are added to those that are there */
  ofFaces: boolean;
  /** how what is there now was measured; null when there are no shapes */
  now: ShapeComparison | null;
  /** number of the rung that is shown */
  at: number;
}

/** The clearances of a piece as shapes that nothing may enter. */
export const clearanceShapes = ({ clearances }: Pick<PieceDocument, 'clearances'>): Shape[] =>
  clearances.map(({ center, halfExtents, rotation }) => ({ kind: 'box', center, halfExtents, rotation }));

/** How far a rung is off, for the chart: millimetres. */
export const millimetresOff = (rung: Rung): number => deviationOf(rung) * 1000;

const NOTHING = '—';

/** The rung that is shown beside what is there now. */
export function rungFigures({ rungs, at, now, agent }: ShownLadder, document: PieceDocument): Figure[] {
  const { shapes, figures } = rungs[at]!;
  const clearances = clearanceShapes(document);
  const open = (set: readonly Shape[]) => openClearances(clearances, set).filter(Boolean).length;
  const detail = agent?.detail ?? 0;
  const row = (name: string, of: (comparison: ShapeComparison) => string, good = false): Figure => ({
    name,
    now: now ? of(now) : NOTHING,
    next: of(figures),
    good,
  });
  const rows = [
    row('Shapes', ({ cost }) => countText(cost.shapes)),
    row('Corners', ({ cost }) => countText(cost.vertices)),
    row('Excess', (c) => lengthText(c.proxyOutside.max), figures.proxyOutside.max <= detail),
    row('Uncovered', (c) => lengthText(c.artOutside.max), figures.artOutside.max <= detail),
    row('Overfill', (c) => volumeText(c.overfill)),
    row('Overlap', (c) => volumeText(c.overlap)),
  ];
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
