export {
  convexHull,
  type ConvexHull,
  farthestOutside,
  type HullOptions,
  type HullResult,
} from './convex-hull.js';
export { planeOf } from './plane.js';
