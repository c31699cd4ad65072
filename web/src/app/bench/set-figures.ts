import { metresPerUnit, type PieceDocument, type Proxy, shapeCorners, shapeVolume } from '@yard-brace/core';

/** What a set of shapes costs and fills. Volumes in cubic metres; empty when the art encloses nothing. */
export interface SetFigures {
  shapes: number;
  corners: number;
  volume: number;
  /** the art's own volume, when its surface is closed */
  artVolume: number | null;
}

/** Shapes may cross, so their volumes are a sum, not a union. */
export function figuresOf(document: PieceDocument, proxies: readonly Proxy[]): SetFigures {
  const { whole, placing } = document;
  const metres = metresPerUnit(document) * placing.factor;
  return {
    shapes: proxies.length,
    corners: proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0),
    volume: proxies.reduce((sum, { shape }) => sum + shapeVolume(shape), 0),
    artVolume: whole.openEdges === 0 && whole.volume > 0 ? whole.volume * metres ** 3 : null,
  };
}
