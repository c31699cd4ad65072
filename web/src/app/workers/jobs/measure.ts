import type { PieceDocument, Shape, ShapeComparison } from '@yard-brace/core';
import { transfer } from 'comlink';
import type { Measured, Progress } from '../messages';
import { comparerOf, placedOf } from './art';

/** How far shapes lie from the art, in figures and at each vertex. */
export async function measure(
  document: PieceDocument,
  shapes: Shape[],
  progress: Progress,
): Promise<Measured> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.3, 'Fetching the art'));
  progress(0.3, 'Measuring');
  const { vertices, uncovered: _uncovered, ...figures } = comparerOf(document, mesh).inDetail(shapes);
  const values = new Float32Array(vertices);
  return transfer({ figures, vertices: values }, [values.buffer]);
}

/** The figures of a set of shapes against the art. */
export async function compare(
  document: PieceDocument,
  shapes: Shape[],
  progress: Progress,
): Promise<ShapeComparison> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Measuring the shapes'));
  return comparerOf(document, mesh).compare(shapes);
}
