import { convexHull, hullDistance, hullVolume, type HullResult, hullShape } from '../hull/index.js';
import { boundsOf, diagonalOf } from '../math/index.js';
import { type Shape, shapeCost, shapeTriangles, shapeVolume } from '../shape/index.js';
import { freeCapsule, freeCylinder } from './fit-shape.js';
import { minVolumeBox } from './min-volume-box.js';
import { smallestSphere } from './smallest-sphere.js';

/** One kind of shape round some points. */
export interface Suggestion {
  shape: Shape;
  /** cubic metres */
  volume: number;
  /** the most that its surface stands off the points' hull, metres */
  deviation: number;
  /** see `shapeCost` */
  cost: number;
}

export interface SuggestOptions {
  /** a kind serves when it stands off by no more than this, metres. Default: a hundredth of the size */
  tolerance?: number;
}

/**
 * Which kind of shape serves points best ([3n], n > 0): the cheapest that stands off their hull by no more
 * than the tolerance comes first, then the others by how far they stand off. Flat points get a box only.
 */
export function suggestShape(points: ArrayLike<number>, options: SuggestOptions = {}): Suggestion[] {
  const result = convexHull(points);
  const tolerance = options.tolerance ?? diagonalOf(boundsOf(points)) / 100;
  if (result.span !== 'solid') return [suggestion(minVolumeBox(points), () => 0)];
  const { hull } = result;
  const off = standOff(result);
  const straight = freeCylinder(hull.points);
  const tapered = freeCylinder(hull.points, { tapered: true });
  const shapes: Shape[] = [
    minVolumeBox(hull.points),
    smallestSphere(hull.points),
    freeCapsule(hull.points),
    shapeVolume(tapered) < shapeVolume(straight) * 0.99 ? tapered : straight,
    hullShape(hull),
  ];
  const found = shapes.map((shape) => suggestion(shape, off));
  const serves = (s: Suggestion) => s.deviation <= tolerance;
  return found.sort((a, b) => {
    if (serves(a) !== serves(b)) return serves(a) ? -1 : 1;
    return serves(a) ? a.cost - b.cost || a.volume - b.volume : a.deviation - b.deviation;
  });
}

const suggestion = (shape: Shape, off: (shape: Shape) => number): Suggestion => ({
  shape,
  volume: shapeVolume(shape),
  deviation: off(shape),
  cost: shapeCost(shape),
});

/** How far a shape's surface stands off a hull at most, by the places on it that reach out farthest. */
export function standOff({ hull }: HullResult & { span: 'solid' }): (shape: Shape) => number {
  const distance = hullDistance(hull.points, hull.faces);
  const volume = hullVolume(hull);
  return (shape) => {
    if (shape.kind === 'hull' && Math.abs(shapeVolume(shape) / volume - 1) < 1e-12) return 0;
    const { points } = shapeTriangles(shape, { segments: 32 });
    let most = 0;
    for (let i = 0; i < points.length; i += 3)
      most = Math.max(most, distance(points[i]!, points[i + 1]!, points[i + 2]!));
    return most;
  };
}
