import {
  artKey,
  centreOf,
  Comparer,
  type Mesh,
  meshBounds,
  type PieceDocument,
  type PlacedArt,
  placedArt,
  type Vec3,
} from '@yard-brace/core';
import { getBlob } from '../../api/get-blob';
import { MeshCache } from '../mesh-cache';

/** What the jobs of one worker share: decoded meshes, and the art that was asked about last. */
export const meshes = new MeshCache({ fetchBytes: getBlob });

/** Most questions are about the same art as the one before. */
let last: { key: string; placed: PlacedArt } | undefined;

/** The art of a document as one mesh where it stands. */
export async function placedOf(
  document: PieceDocument,
  progress: (share: number) => void,
): Promise<PlacedArt> {
  const key = artKey(document);
  if (last?.key === key) return last.placed;
  const placed = placedArt(document, await meshes.hold(document, progress));
  last = { key, placed };
  return placed;
}

/** The comparer of the art that was measured last. */
let measuring: { key: string; comparer: Comparer } | undefined;

export function comparerOf(document: PieceDocument, mesh: Mesh): Comparer {
  const key = artKey(document);
  if (measuring?.key !== key) measuring = { key, comparer: new Comparer(mesh) };
  return measuring.comparer;
}

/** The point that drawn positions are relative to. */
export const originOf = (mesh: Mesh): Vec3 => (mesh.indices.length ? centreOf(meshBounds(mesh)) : [0, 0, 0]);
