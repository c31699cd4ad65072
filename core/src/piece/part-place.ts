import {
  type Bounds,
  decomposeMatrix,
  emptyBounds,
  inverseQuat,
  multiplyQuats,
  NO_ROTATION,
  type Quat,
  subtract,
  unionOf,
  type Vec3,
} from '../math/index.js';
import type { PieceDocument } from './document.js';
import { artBounds, nodeById, partBounds, placedMatrices } from './geometry.js';
import { pivotOf } from './pivot-rules.js';
import type { OperationOf } from './reshape/operation.js';

/** Where a part stands: its pivot, in metres in the piece's space, and how its node is turned and scaled there. */
export interface PartPlace {
  position: Vec3;
  rotation: Quat;
  scale: Vec3;
}

export function partPlace(document: PieceDocument, part: string): PartPlace {
  const { rotation, scale } = decomposeMatrix(placedMatrices(document)[nodeById(document, part)]!);
  return { position: pivotOf(document, part).position, rotation, scale };
}

type Move = OperationOf<'move'>;

/** The operation that brings a part from where it stands to another place, about its pivot; another part’s, for one. */
export function moveTo(
  document: PieceDocument,
  part: string,
  wanted: Partial<PartPlace>,
  alone = false,
): Move {
  const now = partPlace(document, part);
  const { position = now.position, rotation = now.rotation, scale = now.scale } = wanted;
  return {
    op: 'move',
    parts: [part],
    by: subtract(position, now.position),
    turn: multiplyQuats(rotation, inverseQuat(now.rotation)),
    about: now.position,
    scale: scale.map((s, k) => s / (now.scale[k]! || 1)) as Vec3,
    axes: now.rotation,
    alone,
  };
}

/** Bounds of parts with all below them where they stand, or of the whole art: metres. */
export function boundsOfParts(document: PieceDocument, parts: readonly string[]): Bounds {
  if (parts.length === 0) return artBounds(document);
  const { nodes } = document;
  const inside = new Uint8Array(nodes.length);
  let bounds = emptyBounds();
  nodes.forEach(({ id, parent, mesh }, i) => {
    if (!parts.includes(id) && !(parent !== null && inside[parent])) return;
    inside[i] = 1;
    if (mesh !== null) bounds = unionOf(bounds, partBounds(document, i));
  });
  return bounds;
}

/**
 * What parts are turned about and grown from: the pivot of the one part, the middle of several where they stand, the
 * piece's pivot for none.
 */
export function centerOfParts(document: PieceDocument, parts: readonly string[]): Vec3 {
  if (parts.length === 0) return document.pivot.position;
  if (parts.length === 1) return partPlace(document, parts[0]!).position;
  const bounds = boundsOfParts(document, parts);
  return [sideOf(bounds, 0, 0), sideOf(bounds, 1, -1), sideOf(bounds, 2, 0)];
}

/** Where along an axis bounds are laid hold of: their least, middle or greatest place. */
export type Side = -1 | 0 | 1;

export const sideOf = ({ min, max }: Bounds, axis: 0 | 1 | 2, side: Side): number =>
  side === 0 ? (min[axis]! + max[axis]!) / 2 : side < 0 ? min[axis]! : max[axis]!;

/** The operation that shifts parts along one axis until a side of their bounds is at a place: metres. */
export function alignTo(
  document: PieceDocument,
  parts: readonly string[],
  { axis, side, at }: { axis: 0 | 1 | 2; side: Side; at: number },
): Move {
  const by: Vec3 = [0, 0, 0];
  by[axis] = at - sideOf(boundsOfParts(document, parts), axis, side);
  return { op: 'move', parts: [...parts], by, turn: [...NO_ROTATION] as Quat, about: [0, 0, 0] };
}
