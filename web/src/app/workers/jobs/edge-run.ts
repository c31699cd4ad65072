import {
  edgeRun as runOf,
  faceNeighbours,
  meantSide,
  type PieceDocument,
  type Vec3,
  weld,
} from '@yard-brace/core';
import type { EdgeRun, Progress } from '../messages';
import { placedOf } from './art';

/** The run of edges that goes on from the side of a face nearest to a point: its faces and sides by part. */
export async function edgeRun(
  document: PieceDocument,
  face: number,
  at: Vec3,
  progress: Progress,
): Promise<EdgeRun> {
  const placed = await placedOf(document, (share) => progress(share * 0.5, 'Following the edge'));
  const joined = weld(placed.mesh.positions);
  const neighbours = faceNeighbours(placed.mesh, joined);
  const run = runOf(placed.mesh, neighbours, joined.remap, meantSide(placed.mesh, neighbours, face, at));
  const byPart = new Map<number, number[]>();
  for (const side of run.sides) {
    const f = (side / 3) | 0;
    const node = placed.node[f]!;
    byPart.set(node, [...(byPart.get(node) ?? []), placed.face[f]! * 3 + (side % 3)]);
  }
  const sides = [...byPart].map(([node, list]) => ({
    part: document.nodes[node]!.id,
    sides: Uint32Array.from(list),
  }));
  return { faces: run.faces, sides };
}
