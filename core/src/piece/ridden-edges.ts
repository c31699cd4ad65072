import type { EdgeLine } from '../mesh/index.js';
import type { PieceDocument, RiddenEdge } from './document.js';
import type { EditOf } from './edits/index.js';

/** The edit that marks a run of edges as ridden, under the next number that none has. */
export function markRidden(
  { riddenEdges }: Pick<PieceDocument, 'riddenEdges'>,
  { line, sides }: EdgeLine,
): EditOf<'set-ridden-edges'> {
  const taken = riddenEdges.map(({ id }) => Number(/^e(\d+)$/.exec(id)?.[1] ?? 0));
  const number = Math.max(0, ...taken) + 1;
  const edge: RiddenEdge = { id: `e${number}`, name: `edge ${number}`, line, sides };
  return { kind: 'set-ridden-edges', changed: [edge], removed: [] };
}
