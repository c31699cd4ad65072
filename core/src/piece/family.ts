import * as z from 'zod';
import { quatSchema, vec3Schema } from '../math/schemas.js';
import {
  add,
  type Bounds,
  distance,
  inverseQuat,
  multiplyQuats,
  pointOfBounds,
  type Quat,
  subtract,
  type Vec3,
} from '../math/index.js';
import type { PieceDocument } from './document.js';
import type { EditOf } from './edits/index.js';
import { artBounds, modellingOrigin } from './geometry.js';
import type { Pivot } from './pivot.js';
import { turnDegrees } from './pivot-rules.js';

/** Another piece of the yard, as far as families need it. */
export interface Relative {
  id: number;
  name: string;
  family: string | null;
  bounds: Bounds;
  pivot: Pivot;
  /** see `familyFeature`; null where it is not known of a piece that was saved long ago */
  feature: Vec3 | null;
}

/** The eldest of a family: its pivot is the one that is shared. */
export const eldestOf = <R extends Relative>(pieces: readonly R[], family: string): R | null =>
  pieces.filter((piece) => piece.family === family).sort((a, b) => a.id - b.id)[0] ?? null;

/** The place that a piece has in common with its family, in metres in its space: what was found, or where it was modelled about. */
export const familyFeature = (document: Pick<PieceDocument, 'familyFeature' | 'placing' | 'unit'>): Vec3 =>
  document.familyFeature ?? modellingOrigin(document);

/** Of the 27 points of the bounds. */
const BOUNDS_POINTS: readonly Vec3[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z): Vec3 => [x, y, z])),
);

/**
 * What a family shares: where its pivot lies from the feature that all of it have, and how it is turned. Pieces that
 * joined before features were known keep to the point of the bounds that the pivot lies nearest to.
 */
export interface FamilyShare {
  feature?: { offset: Vec3; rotation: Quat };
  bounds: { at: 'origin' } | { at: 'bounds'; cell: Vec3; offset: Vec3 };
}

export const familyShareSchema = z.object({
  feature: z.object({ offset: vec3Schema, rotation: quatSchema }).optional(),
  bounds: z.discriminatedUnion('at', [
    z.object({ at: z.literal('origin') }),
    z.object({ at: z.literal('bounds'), cell: vec3Schema, offset: vec3Schema }),
  ]),
});

export const familyShare = ({
  bounds,
  pivot,
  feature,
}: Pick<Relative, 'bounds' | 'pivot' | 'feature'>): FamilyShare => ({
  ...(feature ? { feature: { offset: subtract(pivot.position, feature), rotation: pivot.rotation } } : {}),
  bounds: shareOfBounds(bounds, pivot),
});

function shareOfBounds(bounds: Bounds, { anchor, position }: Pivot): FamilyShare['bounds'] {
  const inOrigin = position.every((v) => Math.abs(v) < 1e-9);
  if (anchor === 'origin' || (anchor === 'as-it-came' && inOrigin)) return { at: 'origin' };
  const away = (cell: Vec3) => distance(pointOfBounds(bounds, cell), position);
  const cell = BOUNDS_POINTS.reduce((best, each) => (away(each) < away(best) - 1e-9 ? each : best));
  return { at: 'bounds', cell, offset: subtract(position, pointOfBounds(bounds, cell)) };
}

/** A piece, as far as the place of a family's pivot in it depends on it. */
type Member = Pick<Relative, 'bounds' | 'pivot'> & { feature: Vec3 | null };

/** Where a member of a family has its pivot, and how it is turned there. */
export function familyPlace(
  { bounds, pivot, feature }: Member,
  share: FamilyShare,
): Pick<Pivot, 'position' | 'rotation'> {
  if (feature && share.feature)
    return { position: add(feature, share.feature.offset), rotation: share.feature.rotation };
  const { bounds: by } = share;
  return {
    position: by.at === 'origin' ? [0, 0, 0] : add(pointOfBounds(bounds, by.cell), by.offset),
    rotation: pivot.rotation,
  };
}

/** How far a piece's pivot is from where its family has it: metres, and degrees that it is turned by. */
export function familyDrift(member: Member, share: FamilyShare): { metres: number; degrees: number } {
  const wanted = familyPlace(member, share);
  return {
    metres: distance(wanted.position, member.pivot.position),
    degrees: turnDegrees(multiplyQuats(inverseQuat(wanted.rotation), member.pivot.rotation)),
  };
}

/** A document as a member of its family; it has no feature until it joined by one. */
export const memberOf = (document: PieceDocument): Member => ({
  bounds: artBounds(document),
  pivot: document.pivot,
  feature: document.familyFeature,
});

/** The pivot that makes the piece one of a family. */
export const familyPivot = (document: PieceDocument, share: FamilyShare): Pivot => ({
  ...document.pivot,
  anchor: 'family',
  ...familyPlace(memberOf(document), share),
});

/** How the place that variants have in common is found: about what they were modelled, art that is the same, a picked place, their bounds. */
export type FamilyBy =
  | { by: 'origin' }
  /** from the eldest's art to the same art of this piece */
  | { by: 'art'; shift: Vec3 }
  /** where this piece has what the eldest has at its pivot */
  | { by: 'place'; at: Vec3 }
  | { by: 'bounds' };

/** The edit that makes the piece one of a family, and how far its pivot moves and turns by it: metres, degrees. */
export function joinFamily(
  document: PieceDocument,
  family: string | null,
  pieces: readonly Relative[],
  how: FamilyBy = { by: 'origin' },
): { edit: EditOf<'set-family'>; eldest: Relative | null; metres: number; degrees: number } {
  const eldest = family === null ? null : eldestOf(pieces, family);
  if (!eldest) {
    const own = family === null ? null : modellingOrigin(document);
    return { edit: { kind: 'set-family', family, feature: own }, eldest: null, metres: 0, degrees: 0 };
  }
  const feature = eldest.feature && featureBy(document, { ...eldest, feature: eldest.feature }, how);
  const member = { ...memberOf(document), feature };
  const share = familyShare(eldest);
  const placed = familyPlace(member, share);
  const edit: EditOf<'set-family'> = { kind: 'set-family', family, feature };
  // A locked pivot moves for nobody, for no family either.
  if (document.pivot.locked) return { edit, eldest, metres: 0, degrees: 0 };
  const { metres, degrees } = familyDrift(member, share);
  return {
    edit: { ...edit, pivot: { ...document.pivot, anchor: 'family', ...placed } },
    eldest,
    metres,
    degrees,
  };
}

function featureBy(
  document: PieceDocument,
  eldest: Relative & { feature: Vec3 },
  how: FamilyBy,
): Vec3 | null {
  switch (how.by) {
    case 'origin':
      return modellingOrigin(document);
    case 'art':
      return add(eldest.feature, how.shift);
    case 'place':
      return subtract(how.at, subtract(eldest.pivot.position, eldest.feature));
    case 'bounds':
      return null;
  }
}

/** The edit that puts the pivot where another piece has its own, and how far it moves: metres. */
export function pivotLike(
  document: PieceDocument,
  other: Relative,
): { edit: EditOf<'set-pivots'>; metres: number } {
  const feature = other.feature && modellingOrigin(document);
  const placed = familyPlace({ ...memberOf(document), feature }, familyShare(other));
  return {
    edit: {
      kind: 'set-pivots',
      act: 'copy',
      pivots: [
        {
          part: null,
          pivot: { ...document.pivot, anchor: 'family', ...placed, rotation: other.pivot.rotation },
        },
      ],
    },
    metres: distance(placed.position, document.pivot.position),
  };
}
