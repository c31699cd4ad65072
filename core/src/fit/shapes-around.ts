import { convexHull } from '../hull/index.js';
import { type Shape, shapeVolume } from '../shape/index.js';
import { shapeOfKind, WRAP_KINDS, type WrapKind } from './shape-of-kind.js';
import { standOff } from './suggest-shape.js';

/** A shape of one kind round something. */
export interface ShapeAround {
  kind: WrapKind;
  shape: Shape;
  /** cubic metres */
  volume: number;
  /** the most that it stands off the hull of what it holds, metres; 0 round what is flat */
  deviation: number;
}

export interface ShapesAroundOptions {
  kinds?: readonly WrapKind[];
  /** corners of a hull at most */
  maxCorners?: number;
  /** called between kinds with the share done, 0 to 1 */
  progress?: (share: number) => void;
}

/** One shape of each kind round packed points ([3n], n > 0), for their figures to be seen beside each other. */
export function shapesAround(
  points: ArrayLike<number>,
  { kinds = WRAP_KINDS, progress, ...options }: ShapesAroundOptions = {},
): ShapeAround[] {
  const result = convexHull(points);
  const off = result.span === 'solid' ? standOff(result) : () => 0;
  return kinds.map((kind, i) => {
    const shape = shapeOfKind(points, kind, options);
    progress?.((i + 1) / kinds.length);
    return { kind, shape, volume: shapeVolume(shape), deviation: off(shape) };
  });
}

/** The one that lies closest; of those that lie equally close the one with the least volume, then the first. */
export function closestAround(shapes: readonly ShapeAround[]): ShapeAround | null {
  return shapes.reduce<ShapeAround | null>((best, each) => {
    if (!best) return each;
    const nearer = each.deviation < best.deviation * (1 - 1e-6) - 1e-9;
    const even = each.deviation <= best.deviation * (1 + 1e-6) + 1e-9;
    return nearer || (even && each.volume < best.volume * (1 - 1e-6)) ? each : best;
  }, null);
}
