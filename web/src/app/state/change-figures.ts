import { artBounds, artNodes, countText, type PieceDocument, sizeOf, sizeText } from '@yard-brace/core';
import type { Figure } from './proposals';

const ART_ROWS: { name: string; of: (document: PieceDocument) => string }[] = [
  { name: 'Parts', of: ({ nodes }) => countText(artNodes(nodes).length) },
  { name: 'Triangles', of: ({ whole }) => countText(whole.triangles) },
  { name: 'Distinct vertices', of: ({ whole }) => countText(whole.vertices - whole.doubledVertices) },
  { name: 'Open edges', of: ({ whole }) => countText(whole.openEdges) },
  { name: 'Size', of: (document) => sizeText(sizeOf(artBounds(document))) },
];

/** What a change of the art comes to: only the figures that change. */
export const artFigures = (now: PieceDocument, next: PieceDocument): Figure[] =>
  ART_ROWS.map(({ name, of }) => ({ name, now: of(now), next: of(next) })).filter(
    (row) => row.now !== row.next,
  );
