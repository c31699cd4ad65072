import { axisAlignedBox, minVolumeBox } from '../fit/index.js';
import { convexHull, farthestOutside } from '../hull/index.js';
import { shellsOf, type Mesh, pointsOfShells, weld } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';

export interface WrapOptions {
  kind: 'box' | 'hull';
  /** one shape round everything, or one round each shell. Default: the whole piece */
  per?: 'piece' | 'shell';
  /** a box may be turned to lie closer. Default true for shells, false for the whole piece */
  turned?: boolean;
  /** corners a hull has at most, the farthest first. Default: no limit */
  maxCorners?: number;
  /** called between shapes with the share done, 0 to 1 */
  progress?: (share: number) => void;
}

export interface Wrapping {
  shapes: Shape[];
  /** metres by which the art stands out of hulls that were kept to a number of corners; else 0 */
  cutBack: number;
}

/** Wrapping that cannot be done as asked, with a sentence for the person. */
export class WrapError extends Error {
  override readonly name = 'WrapError';
}

/** More shapes than this is no collision but a list of shells; asking for it is refused. */
export const MAX_SHAPES = 512;

/**
 * Boxes or hulls round a mesh or round each of its shells, in their order.
 * A shell with no volume gets a thin box in its place: importers refuse flat hulls.
 *
 * @throws WrapError when there is nothing to wrap or far too many shells
 */
export function wrap(mesh: Mesh, options: WrapOptions): Wrapping {
  const { kind, per = 'piece', turned = per === 'shell', maxCorners = Infinity, progress } = options;
  const joined = weld(mesh.positions);
  const shells =
    per === 'shell'
      ? shellsOf(mesh, joined)
      : { count: mesh.indices.length ? 1 : 0, ofTriangle: new Uint32Array(mesh.indices.length / 3) };
  if (shells.count === 0) throw new WrapError('There is nothing to wrap: the piece has no triangles.');
  if (shells.count > MAX_SHAPES) {
    throw new WrapError(
      `The piece has ${shells.count} shells and one shape each would be too many (${MAX_SHAPES} at most); weld it or wrap it as a whole.`,
    );
  }
  let cutBack = 0;
  const shapes = pointsOfShells(mesh, shells, joined).map((points, i) => {
    const wrapped =
      kind === 'hull'
        ? hullOrThinBox(points, maxCorners)
        : { shape: turned ? minVolumeBox(points) : axisAlignedBox(points), cutBack: 0 };
    cutBack = Math.max(cutBack, wrapped.cutBack);
    progress?.((i + 1) / shells.count);
    return wrapped.shape;
  });
  return { shapes, cutBack };
}

function hullOrThinBox(points: Float64Array, maxCorners: number): { shape: Shape; cutBack: number } {
  const full = convexHull(points);
  if (full.span !== 'solid') return { shape: minVolumeBox(points), cutBack: 0 };
  const reduced =
    full.hull.points.length / 3 > maxCorners
      ? convexHull(full.hull.points, { maxVertices: maxCorners })
      : full;
  if (reduced.span !== 'solid') return { shape: minVolumeBox(points), cutBack: 0 };
  const shape: Shape = { kind: 'hull', points: [...reduced.hull.points], faces: reduced.hull.faces };
  return { shape, cutBack: reduced === full ? 0 : farthestOutside(reduced.hull, full.hull.points) };
}
