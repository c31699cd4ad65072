import { convexHull, type ConvexHull, hullVolume, type HullResult } from '../hull/index.js';
import { boundsOf, diagonalOf, type Vec3 } from '../math/index.js';
import { fanTriangles, type Shape, shapeCost, shapeTriangles, shapeVolume } from '../shape/index.js';
import { buildBvh, closestPoint } from '../solid/index.js';
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
    { kind: 'hull', points: [...hull.points], faces: hull.faces },
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
export function standOff(result: HullResult & { span: 'solid' }): (shape: Shape) => number {
  const { hull } = result;
  const bvh = buildBvh({ positions: hull.points, indices: fanTriangles(hull.faces) });
  const volume = hullVolume(hull);
  return (shape) => {
    if (shape.kind === 'hull' && Math.abs(shapeVolume(shape) / volume - 1) < 1e-12) return 0;
    const { points } = shapeTriangles(shape, { segments: 32 });
    let most = 0;
    for (let i = 0; i < points.length; i += 3) {
      const p: Vec3 = [points[i]!, points[i + 1]!, points[i + 2]!];
      if (outside(hull, p)) most = Math.max(most, closestPoint(bvh, p)?.distance ?? 0);
    }
    return most;
  };
}

function outside({ points, faces }: ConvexHull, p: Vec3): boolean {
  return faces.some((face) => {
    const [a, b, c] = [face[0]! * 3, face[1]! * 3, face[2]! * 3];
    const u = [0, 1, 2].map((k) => points[b + k]! - points[a + k]!);
    const v = [0, 1, 2].map((k) => points[c + k]! - points[a + k]!);
    const w = [0, 1, 2].map((k) => p[k]! - points[a + k]!);
    const n = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!];
    return n[0]! * w[0]! + n[1]! * w[1]! + n[2]! * w[2]! > 0;
  });
}
