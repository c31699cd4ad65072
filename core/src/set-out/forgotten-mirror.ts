import { composeMatrix, invertMatrix, multiplyMatrices, type Vec3 } from '../math/index.js';
import { type Mesh, nearestPoints, transformMesh } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';
import { throughMatrix } from '../edit-shape/index.js';
import type { PieceDocument, Pivot } from '../piece/index.js';

/** Two vertices this near are the same, as a share of the size of the piece. */
const SAME_SHARE = 1e-5;

type Frame = Pick<Pivot, 'position' | 'rotation'>;

/** From the space of a piece into that of its mirrored twin: across the x of their pivots. */
export function mirrorBetween(from: Frame, to: Frame): Float64Array {
  const frame = ({ position, rotation }: Frame) =>
    composeMatrix({ translation: position, rotation, scale: [1, 1, 1] });
  const mirror = composeMatrix({ translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [-1, 1, 1] });
  return multiplyMatrices(multiplyMatrices(frame(to), mirror), invertMatrix(frame(from))!);
}

/** Whether a piece is the mirror image of another, vertex by vertex, by their pivots. */
export function isMirrorOf(
  a: { document: PieceDocument; art: Mesh },
  b: { document: PieceDocument; art: Mesh },
): boolean {
  if (a.art.indices.length !== b.art.indices.length || a.art.indices.length === 0) return false;
  const seen = transformMesh(a.art, mirrorBetween(a.document.pivot, b.document.pivot));
  const [one, other] = [corners(seen), corners(b.art)];
  if (one.length !== other.length) return false;
  const size = Math.max(...other.map((p) => Math.hypot(...p)), 1e-9);
  return nearestPoints(one, other, size * SAME_SHARE).every((found) => found >= 0);
}

/** Distinct places of the corners of faces. */
function corners({ positions, indices }: Mesh): Vec3[] {
  const seen = new Map<string, Vec3>();
  for (const v of indices) {
    const p: Vec3 = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    seen.set(p.map((each) => each.toFixed(9)).join(), p);
  }
  return [...seen.values()];
}

/** The shapes of a piece as its mirrored twin wants them. */
export function mirroredShapes(from: PieceDocument, to: PieceDocument): Shape[] {
  const matrix = mirrorBetween(from.pivot, to.pivot);
  return from.proxies.flatMap(({ shape }) => {
    const seen = throughMatrix(shape, matrix);
    return seen ? [seen] : [];
  });
}
