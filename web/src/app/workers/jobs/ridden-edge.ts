import { type EdgeLine, edgeLine, nodeById, type PieceDocument } from '@yard-brace/core';
import type { EdgeRun, Progress } from '../messages';
import { placedOf } from './art';

/** The line that a run of edges follows where the art stands; null where it is no single run. */
export async function riddenEdge(
  document: PieceDocument,
  runs: EdgeRun['sides'],
  toleranceMetres: number,
  progress: Progress,
): Promise<EdgeLine | null> {
  const placed = await placedOf(document, (share) => progress(share * 0.5, 'Following the edge'));
  const wanted = new Map(runs.map(({ part, sides }) => [nodeById(document, part), new Set(sides)]));
  const sides: number[] = [];
  placed.node.forEach((node, f) => {
    const own = wanted.get(node);
    for (let k = 0; own && k < 3; k++) if (own.has(placed.face[f]! * 3 + k)) sides.push(f * 3 + k);
  });
  return edgeLine(placed.mesh, sides, toleranceMetres);
}
