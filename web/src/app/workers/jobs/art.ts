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
  proxiesAsDelivered,
  type Shape,
  type ShapeComparison,
  type TargetProfile,
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
  /** the target whose form of the shapes is measured */
  profile: TargetProfile;
}

/** The art that was measured last. */
let measuring: { key: string; art: Omit<MeasuredArt, 'profile'> } | undefined;

export async function measuredArt(
  document: PieceDocument,
  profile: TargetProfile,
  progress: (share: number) => void,
): Promise<MeasuredArt> {
  const whole = await placedOf(document, progress);
  const key = artKey(document) + leftOutKey(document);
  if (measuring?.key !== key) {
    const placed = collidingArt(document, whole);
    measuring = { key, art: { placed, comparer: new Comparer(placed.mesh), known: new KnownShapes() } };
  }
  return { ...measuring.art, profile: sameProfile(profile) };
}

/** What the jobs know of the shapes of a document, with those that came before in the place of their equals. */
export const withKnownShapes = (document: PieceDocument, { known }: MeasuredArt): PieceDocument => ({
  ...document,
  proxies: document.proxies.map((proxy) => ({ ...proxy, shape: known.same(proxy.shape) })),
});

/** Each message brings a copy of the target's profile: the same one again is taken for the one before. */
let lastProfile: { text: string; profile: TargetProfile } | undefined;

function sameProfile(profile: TargetProfile): TargetProfile {
  const text = JSON.stringify(profile);
  if (lastProfile?.text !== text) lastProfile = { text, profile };
  return lastProfile.profile;
}

/** The document with its shapes as the target gets them: what is measured is what leaves. */
export const asItLeaves = (document: PieceDocument, { profile }: MeasuredArt): PieceDocument => ({
  ...document,
  proxies: proxiesAsDelivered(profile, document.proxies),
});

/** The shapes of a document as the target gets them, each the one that was measured before. */
export const shapesAsTheyLeave = (document: PieceDocument, art: MeasuredArt): Shape[] =>
  asItLeaves(withKnownShapes(document, art), art).proxies.map(({ shape }) => shape);

/** How those lie to the art. */
export const figuresOf = (document: PieceDocument, art: MeasuredArt): ShapeComparison =>
  art.comparer.compare(shapesAsTheyLeave(document, art));

/** The point that drawn positions are relative to. */
export const originOf = (mesh: Mesh): Vec3 => (mesh.indices.length ? centreOf(meshBounds(mesh)) : [0, 0, 0]);
