import { countText, lengthText, type ShapeComparison, volumeText } from '@yard-brace/core';
import type { Figure } from './proposals';

/** What stands where there is nothing to compare with. */
export const NOTHING = '—';

/** A set beside what it would become, measured the same way. */
export function setFigures(
  before: ShapeComparison | null,
  after: ShapeComparison,
  feltMetres: number,
): Figure[] {
  const row = (name: string, of: (figures: ShapeComparison) => string, good = false): Figure => ({
    name,
    now: before ? of(before) : NOTHING,
    next: of(after),
    good,
  });
  return [
    row('Shapes', ({ cost }) => countText(cost.shapes)),
    row('Corners', ({ cost }) => countText(cost.vertices)),
    row('Excess', ({ proxyOutside }) => lengthText(proxyOutside.max), after.proxyOutside.max <= feltMetres),
    row('Uncovered', ({ artOutside }) => lengthText(artOutside.max), after.artOutside.max <= feltMetres),
    row('Overfill', ({ overfill }) => volumeText(overfill)),
    row('Overlap', ({ overlap }) => volumeText(overlap)),
  ];
}
