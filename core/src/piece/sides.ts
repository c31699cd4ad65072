import { dot, normalized, sizeOf, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { metresPerUnit, type PieceDocument } from './document.js';

/** The three sides of the art along the axes of its file, however the piece was turned: metres. */
export function ownSides(document: Pick<PieceDocument, 'whole' | 'unit' | 'placing'>): Vec3 {
  const metres = metresPerUnit(document) * document.placing.factor;
  return sizeOf(document.whole).map((side) => side * metres) as Vec3;
}

/** How far a mesh reaches along a direction, in its unit: from, and to. */
export function extentAlong({ positions, indices }: Mesh, direction: Readonly<Vec3>): [number, number] {
  const way = normalized(direction);
  let [low, high] = [Infinity, -Infinity];
  for (const v of indices) {
    const at = dot([positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!], way);
    low = Math.min(low, at);
    high = Math.max(high, at);
  }
  return [low, high];
}
