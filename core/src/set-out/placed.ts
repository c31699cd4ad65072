import { throughMatrix } from '../edit-shape/index.js';
import {
  applyMatrix,
  type Bounds,
  boundsThrough,
  type Matrix,
  multiplyMatrices,
  invertMatrix,
} from '../math/index.js';
import { type Mesh, transformMesh } from '../mesh/index.js';
import { artBounds, type Clearance, clearanceShape, type PieceDocument } from '../piece/index.js';
import type { Shape } from '../shape/index.js';
import { type Placement, placementMatrix, type SetOut, sourceKey } from './set-out.js';

/** The pieces that stand somewhere, by their `sourceKey`. */
export type Documents = ReadonlyMap<string, PieceDocument>;

/** A piece where it stands in a set-out. */
export interface Placed {
  placement: Placement;
  document: PieceDocument;
  /** of the piece, with a number where several of it stand there */
  name: string;
  /** from the piece's space into the set-out's */
  matrix: Matrix;
  /** metres in the set-out: of the art, or larger where it stands turned */
  bounds: Bounds;
}

/** The pieces of a set-out where they stand, in its order. A piece that is no longer in the yard is left out. */
export function placedPieces({ placements }: Pick<SetOut, 'placements'>, documents: Documents): Placed[] {
  const names = placementNames(
    { placements },
    (placement) => documents.get(sourceKey(placement))?.name ?? null,
  );
  return placements.flatMap((placement) => {
    const document = documents.get(sourceKey(placement));
    if (!document) return [];
    const matrix = placementMatrix(placement, document.pivot);
    const bounds = boundsThrough(artBounds(document), (p) => applyMatrix(matrix, p));
    return [{ placement, document, name: names.get(placement.id)!, matrix, bounds }];
  });
}

/**
 * What each placement is called, by its id: as its piece, with a number where several of it stand there.
 *
 * @param nameOf null for a piece that is no longer in the yard
 */
export function placementNames(
  { placements }: Pick<SetOut, 'placements'>,
  nameOf: (placement: Placement) => string | null,
): Map<string, string> {
  const counts = new Map<number, number>();
  for (const { piece } of placements) counts.set(piece, (counts.get(piece) ?? 0) + 1);
  const seen = new Map<number, number>();
  return new Map(
    placements.map((placement) => {
      const { id, piece } = placement;
      const number = (seen.get(piece) ?? 0) + 1;
      seen.set(piece, number);
      const name = nameOf(placement) ?? `removed piece ${piece}`;
      return [id, counts.get(piece) === 1 ? name : `${name} ${number}`];
    }),
  );
}

/** A shape of a piece where it stands. */
export interface PlacedShape {
  placement: string;
  proxy: string;
  shape: Shape;
}

/** The shapes of a piece where it stands; one that is flat there is left out. */
export const placedShapes = ({ placement, document, matrix }: Placed): PlacedShape[] =>
  document.proxies.flatMap(({ id, shape }) => {
    const there = throughMatrix(shape, matrix);
    return there ? [{ placement: placement.id, proxy: id, shape: there }] : [];
  });

/** What must stay open of a piece where it stands. */
export const placedClearances = ({ document, matrix }: Placed): Clearance[] =>
  document.clearances.flatMap((clearance) => {
    const there = throughMatrix(clearanceShape(clearance), matrix);
    return there?.kind === 'box'
      ? [{ ...clearance, center: there.center, halfExtents: there.halfExtents, rotation: there.rotation }]
      : [];
  });

/** Art of a piece where it stands; mirrored faces are turned. */
export const placedMesh = ({ matrix }: Placed, art: Mesh): Mesh => transformMesh(art, matrix);

/** From one placed piece's space into another's. */
export const between = (from: Placed, to: Placed): Matrix =>
  multiplyMatrices(invertMatrix(to.matrix)!, from.matrix);
