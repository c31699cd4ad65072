import { thickHull, hullShape, withVertexBudget } from '../hull/index.js';
import { MIN_THICKNESS_METRES, type Shape, shapeVolume } from '../shape/index.js';
import { axisAlignedBox } from './axis-aligned-box.js';
import { freeCapsule, freeCylinder } from './fit-shape.js';
import { DIRECTION_COUNTS, directedHull, type DirectionCount } from './k-directions.js';
import { minVolumeBox, uprightBox } from './min-volume-box.js';
import { smallestSphere } from './smallest-sphere.js';
import { wedge } from './wedge.js';

/** What a person can ask to have laid round something. */
export const WRAP_KINDS = [
  'box',
  'upright-box',
  'smallest-box',
  'sphere',
  'capsule',
  'cylinder',
  'tapered-cylinder',
  'wedge',
  'hull',
  ...DIRECTION_COUNTS.map((count) => `hull-${count}` as const),
] as const;
export type WrapKind = (typeof WRAP_KINDS)[number];

export interface ShapeOfKindOptions {
  /** corners of a hull at most. Default 64 */
  maxCorners?: number;
}

/** The smallest shape of one kind round packed points ([3n], n > 0). It holds all of them. */
export function shapeOfKind(
  points: ArrayLike<number>,
  kind: WrapKind,
  { maxCorners = 64 }: ShapeOfKindOptions = {},
): Shape {
  switch (kind) {
    case 'box':
      return axisAlignedBox(points);
    case 'upright-box':
      return uprightBox(points);
    case 'smallest-box':
      return minVolumeBox(points);
    case 'sphere':
      return smallestSphere(points);
    case 'capsule':
      return freeCapsule(points);
    case 'cylinder':
      return freeCylinder(points);
    case 'tapered-cylinder': {
      // Each is the best that a search finds: a straight one may lie where the other was not looked for.
      const [tapered, straight] = [freeCylinder(points, { tapered: true }), freeCylinder(points)];
      return shapeVolume(straight) < shapeVolume(tapered) ? straight : tapered;
    }
    case 'wedge':
      return wedge(points);
    case 'hull':
      return hullShape(withVertexBudget(thickHull(points, MIN_THICKNESS_METRES), Math.max(4, maxCorners)));
    default:
      return directedHull(points, Number(kind.slice('hull-'.length)) as DirectionCount);
  }
}
