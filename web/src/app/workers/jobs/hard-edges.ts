import { hardEdges as hardOf, type PieceDocument } from '@yard-brace/core';
import { transfer } from 'comlink';
import type { FaultLines, Progress } from '../messages';
import { originOf, placedOf } from './art';

/** The edges that the art's normals show as hard, as it is drawn. */
export async function hardEdges(document: PieceDocument, progress: Progress): Promise<FaultLines> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Finding hard edges'));
  const origin = originOf(mesh);
  const sides = hardOf(mesh);
  const edges = new Float32Array(sides.length * 6);
  sides.forEach((side, i) =>
    [side, side % 3 === 2 ? side - 2 : side + 1].forEach((corner, end) => {
      for (let k = 0; k < 3; k++)
        edges[i * 6 + end * 3 + k] = mesh.positions[mesh.indices[corner]! * 3 + k]! - origin[k]!;
    }),
  );
  return transfer({ faces: new Uint32Array(), edges }, [edges.buffer]);
}
