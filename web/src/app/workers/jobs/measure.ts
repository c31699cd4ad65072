import {
  floatsAbout,
  type PaintedShapes,
  type PieceDocument,
  type TargetProfile,
  type Shape,
  shapeSchema,
  type Vec3,
} from '@yard-brace/core';
import { transfer } from 'comlink';
import type { Measured, PaintedFaces, Progress } from '../messages';
import { asItLeaves, measuredArt, originOf, placedOf } from './art';

/** How far shapes lie from the art, in figures and at each vertex. */
export async function measure(
  document: PieceDocument,
  profile: TargetProfile,
  given: Shape[],
  progress: Progress,
): Promise<Measured> {
  const { mesh } = await placedOf(document, (share) => progress(share * 0.3, 'Fetching the art'));
  progress(0.3, 'Measuring');
  const art = await measuredArt(document, profile, () => undefined);
  const { comparer, known } = art;
  const proxies = given.map((shape, i) => ({ id: String(i), shape: known.same(shape) }));
  const shapes = asItLeaves({ ...document, proxies }, art).proxies.map(({ shape }) => shape);
  const { vertices, uncovered: _uncovered, ...figures } = comparer.inDetail(shapes);
  const values = new Float32Array(vertices);
  const faces = paintedFaces(comparer.painted(shapes), originOf(mesh));
  return transfer({ figures, vertices: values, faces }, [
    values.buffer,
    faces.positions.buffer,
    faces.indices.buffer,
    faces.values.buffer,
  ]);
}

/** How far one shape, as its target gets it, stands off the art at most: for a shape that is dragged. */
export async function shapeExcess(
  document: PieceDocument,
  profile: TargetProfile,
  shape: Shape,
  progress: Progress,
): Promise<number> {
  const art = await measuredArt(document, profile, (share) => progress(share, 'Measuring'));
  const proxies = [{ id: 'dragged', shape: shapeSchema.parse(shape) }];
  const [proxy] = asItLeaves({ ...document, proxies }, art).proxies;
  return art.comparer.excess(proxy!.shape);
}

const paintedFaces = ({ points, indices, values }: PaintedShapes, origin: Vec3): PaintedFaces => ({
  positions: floatsAbout(points, origin),
  indices: new Uint32Array(indices),
  values: new Float32Array(values),
  origin,
});
