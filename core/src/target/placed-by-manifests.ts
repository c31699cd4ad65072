import { applyMatrix, distance, type Vec3 } from '../math/index.js';
import { artBounds, type PieceDocument } from '../piece/index.js';
import { type Placement, placementMatrix } from '../set-out/index.js';
import type { Manifest } from './manifest.js';

/** A piece that stands where a manifest says that it sat before it was moved onto its pivot. */
export interface PutTogetherPiece {
  piece: number;
  at: Pick<Placement, 'position' | 'rotation' | 'mirrored'>;
  /** metres that its art is off from where it was made: its pivot has moved since it was delivered */
  off: number;
}

/**
 * Pieces that were delivered apart, each on its own pivot, where they belong together. Manifests are told by their mesh
 * name, of several of one name the last; those of no piece of the yard are named.
 *
 * @param pieces by their numbers
 */
export function placedByManifests(
  manifests: readonly Manifest[],
  pieces: ReadonlyMap<number, PieceDocument>,
): { stands: PutTogetherPiece[]; unknown: string[] } {
  const byMesh = new Map(manifests.map((manifest) => [manifest.mesh, manifest]));
  const numbers = new Map([...pieces].map(([id, { meshName }]) => [meshName, id]));
  const stands: PutTogetherPiece[] = [];
  const unknown: string[] = [];
  for (const [mesh, { pivot }] of byMesh) {
    const piece = numbers.get(mesh);
    if (piece === undefined) {
      unknown.push(mesh);
      continue;
    }
    const document = pieces.get(piece)!;
    const at = { position: pivot.position, rotation: pivot.rotation, mirrored: false };
    const matrix = placementMatrix(at, document.pivot);
    const { min, max } = artBounds(document);
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i): Vec3 => [
      i & 1 ? max[0] : min[0],
      i & 2 ? max[1] : min[1],
      i & 4 ? max[2] : min[2],
    ]);
    stands.push({ piece, at, off: Math.max(...corners.map((p) => distance(applyMatrix(matrix, p), p))) });
  }
  return { stands, unknown };
}
