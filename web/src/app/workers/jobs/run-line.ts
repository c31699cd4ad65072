import { chainOfRun, type PieceDocument, takeFaces } from '@yard-brace/core';
import type { ChainAsk, Progress, RunLine } from '../messages';
import { placedOf } from './art';

/** The line of the run that some faces (numbers of the drawn art) make, as a chain along it is laid. */
export async function runLine(
  document: PieceDocument,
  faces: Uint32Array,
  { count, tolerance }: ChainAsk,
  progress: Progress,
): Promise<RunLine> {
  const { mesh, node } = await placedOf(document, (share) => progress(share * 0.5, 'Following the run'));
  const chosen = new Set(faces);
  const { positions, indices } = takeFaces(mesh, (face) => chosen.has(face));
  const { run, places, half } = chainOfRun(positions, indices, {
    ...(count === null ? {} : { count }),
    ...(tolerance === null ? {} : { tolerance }),
  });
  const parts = [...new Set(Array.from(faces, (face) => node[face]!))];
  const owned = parts.length === 1 && document.nodes.length > 1;
  return {
    line: places,
    closed: run.closed,
    width: 2 * half[0],
    height: 2 * half[1],
    ...(owned ? { part: document.nodes[parts[0]!]!.id } : {}),
  };
}
