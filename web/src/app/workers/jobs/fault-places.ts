import { type FaultKind, faultPlaces, type PieceDocument } from '@yard-brace/core';
import { transfer } from 'comlink';
import type { FaultLines, Progress } from '../messages';
import { originOf, placedOf } from './art';

/** Where one kind of fault is, on the art as it is drawn. */
export async function faults(
  document: PieceDocument,
  kind: FaultKind,
  progress: Progress,
): Promise<FaultLines> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Looking for the place'));
  const { faces, edges } = faultPlaces(mesh, kind);
  const origin = originOf(mesh);
  const points = new Float32Array(edges.length * 3);
  edges.forEach((v, i) => {
    for (let k = 0; k < 3; k++) points[i * 3 + k] = mesh.positions[v * 3 + k]! - origin[k]!;
  });
  return transfer({ faces: Uint32Array.from(faces), edges: points }, [points.buffer]);
}
