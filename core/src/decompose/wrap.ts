import { axisAlignedBox, minVolumeBox } from '../fit/index.js';
import { convexHull } from '../hull/index.js';
import { connectedParts, type Mesh, pointsOfParts, weld } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';

export interface WrapOptions {
  kind: 'box' | 'hull';
  /** one shape round everything, or one round each connected part. Default: the whole piece */
  per?: 'piece' | 'part';
  /** a box may be turned to lie closer. Default true for parts, false for the whole piece */
  turned?: boolean;
  /** called between shapes with the share done, 0 to 1 */
  progress?: (share: number) => void;
}

/** Wrapping that cannot be done as asked, with a sentence for the person. */
export class WrapError extends Error {
  override readonly name = 'WrapError';
}

/** More shapes than this is no collision but a list of parts; asking for it is refused. */
export const MOST_SHAPES = 512;

/**
 * Boxes or hulls round a mesh or round each of its connected parts, in the order of the parts.
 * A part with no volume gets a thin box in its place: importers refuse flat hulls.
 *
 * @throws WrapError when there is nothing to wrap or far too many parts
 */
export function wrap(mesh: Mesh, { kind, per = 'piece', turned = per === 'part', progress }: WrapOptions): Shape[] {
  const joined = weld(mesh.positions);
  const parts =
    per === 'part'
      ? connectedParts(mesh, joined)
      : { count: mesh.indices.length ? 1 : 0, ofTriangle: new Uint32Array(mesh.indices.length / 3) };
  if (parts.count === 0) throw new WrapError('There is nothing to wrap: the piece has no triangles.');
  if (parts.count > MOST_SHAPES) {
    throw new WrapError(
      `The piece has ${parts.count} connected parts and one shape each would be too many (${MOST_SHAPES} at most); weld it or wrap it as a whole.`,
    );
  }
  return pointsOfParts(mesh, parts, joined).map((points, i) => {
    const shape = kind === 'hull' ? hullOrThinBox(points) : turned ? minVolumeBox(points) : axisAlignedBox(points);
    progress?.((i + 1) / parts.count);
    return shape;
  });
}

function hullOrThinBox(points: Float64Array): Shape {
  const result = convexHull(points);
  if (result.span !== 'solid') return minVolumeBox(points);
  return { kind: 'hull', points: [...result.hull.points], faces: result.hull.faces };
}
