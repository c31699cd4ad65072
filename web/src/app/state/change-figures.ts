import {
  artBounds,
  artNodes,
  countText,
  lengthText,
  metresPerUnit,
  type PieceDocument,
  type Proxy,
  shapeCorners,
  shapeVolume,
  sizeOf,
  sizeText,
  volumeText,
} from '@yard-brace/core';
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

/** What a set of shapes costs and fills. Volumes in cubic metres. */
export interface SetCost {
  shapes: number;
  corners: number;
  /** shapes may overlap, so their volumes are a sum, not a union */
  volume: number;
}

export const costOf = (proxies: readonly Proxy[]): SetCost => ({
  shapes: proxies.length,
  corners: proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0),
  volume: proxies.reduce((sum, { shape }) => sum + shapeVolume(shape), 0),
});

/** The art's own volume in cubic metres, when its surface is closed. */
export function artVolume(document: PieceDocument): number | null {
  const { whole, placing } = document;
  const metres = metresPerUnit(document) * placing.factor;
  return whole.openEdges === 0 && whole.volume > 0 ? whole.volume * metres ** 3 : null;
}

/** @param uncoveredMetres by which the art is known to lie outside the proposed shapes */
export function wrapFigures(
  document: PieceDocument,
  proposed: readonly Proxy[],
  uncoveredMetres: number,
): Figure[] {
  const [now, next] = [costOf(document.proxies), costOf(proposed)];
  const art = artVolume(document);
  return [
    { name: 'Shapes', now: countText(now.shapes), next: countText(next.shapes) },
    { name: 'Corners', now: countText(now.corners), next: countText(next.corners) },
    { name: 'Sum of volumes', now: volumeText(now.volume), next: volumeText(next.volume) },
    ...(art === null ? [] : [{ name: 'Volume of the art', now: '', next: volumeText(art) }]),
    ...(uncoveredMetres > 0 ? [{ name: 'Uncovered', now: '', next: lengthText(uncoveredMetres) }] : []),
  ];
}
