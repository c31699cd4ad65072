import { type Bounds, distance } from '../math/index.js';
import type { PieceDocument } from './document.js';
import type { EditOf } from './edits/index.js';
import { familyPivot, familyShare } from './geometry.js';
import type { Pivot } from './pivot.js';

/** Another piece of the yard, as far as families need it. */
export interface Relative {
  id: number;
  name: string;
  family: string | null;
  bounds: Bounds;
  pivot: Pivot;
}

/** The eldest of a family: its pivot is the one that is shared. */
export const eldestOf = <R extends Relative>(pieces: readonly R[], family: string): R | null =>
  pieces.filter((piece) => piece.family === family).sort((a, b) => a.id - b.id)[0] ?? null;

/** The edit that makes the piece one of a family, and how far its pivot moves by it: metres. */
export function joinFamily(
  document: PieceDocument,
  family: string | null,
  pieces: readonly Relative[],
): { edit: EditOf<'set-family'>; eldest: Relative | null; metres: number } {
  const eldest = family === null ? null : eldestOf(pieces, family);
  if (!eldest) return { edit: { kind: 'set-family', family }, eldest: null, metres: 0 };
  const pivot = familyPivot(document, familyShare(eldest.bounds, eldest.pivot));
  return {
    edit: { kind: 'set-family', family, pivot },
    eldest,
    metres: distance(pivot.position, document.pivot.position),
  };
}

/** The edit that puts the pivot where another piece has its own, said by its bounds, and how far it moves: metres. */
export function pivotLike(
  document: PieceDocument,
  other: Relative,
): { edit: EditOf<'set-pivots'>; metres: number } {
  const pivot = familyPivot(document, familyShare(other.bounds, other.pivot));
  return {
    edit: {
      kind: 'set-pivots',
      act: 'copy',
      pivots: [{ part: null, pivot: { ...pivot, rotation: other.pivot.rotation } }],
    },
    metres: distance(pivot.position, document.pivot.position),
  };
}
