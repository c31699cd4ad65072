import {
  artKey,
  collidingArt,
  centreOf,
  Comparer,
  leftOutKey,
  type Mesh,
  meshBounds,
  type PieceDocument,
  type PlacedArt,
  placedArt,
  PREFIX_TAGS,
  profileById,
  proxiesAsDelivered,
  type Vec3,
} from '@yard-brace/core';
import { getBlob } from '../../api/get-blob';
import { KnownShapes } from '../known-shapes';
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

/** Art as it is measured against: without specks. */
export interface MeasuredArt {
  placed: PlacedArt;
  comparer: Comparer;
  /** the shapes of a set as the comparer knows them: what came with an earlier message was measured then */
  known: KnownShapes;
}

/** The art that was measured last. */
let measuring: { key: string; art: MeasuredArt } | undefined;

export async function measuredArt(
  document: PieceDocument,
  progress: (share: number) => void,
): Promise<MeasuredArt> {
  const whole = await placedOf(document, progress);
  const key = artKey(document) + leftOutKey(document);
  if (measuring?.key !== key) {
    const placed = collidingArt(document, whole);
    measuring = { key, art: { placed, comparer: new Comparer(placed.mesh), known: new KnownShapes() } };
  }
  return measuring.art;
}

/** What the jobs know of the shapes of a document, with those that came before in the place of their equals. */
export const withKnownShapes = (document: PieceDocument, { known }: MeasuredArt): PieceDocument => ({
  ...document,
  proxies: document.proxies.map((proxy) => ({ ...proxy, shape: known.same(proxy.shape) })),
});

/** The document with its shapes as its target gets them: what is measured is what leaves. */
export const asItLeaves = (document: PieceDocument): PieceDocument => ({
  ...document,
  proxies: proxiesAsDelivered(profileById(document.target) ?? PREFIX_TAGS, document.proxies),
});

/** The point that drawn positions are relative to. */
export const originOf = (mesh: Mesh): Vec3 => (mesh.indices.length ? centreOf(meshBounds(mesh)) : [0, 0, 0]);
