export {
  convexHull,
  type ConvexHull,
  farthestOutside,
  type HullOptions,
  type HullResult,
  planeOf,
} from './convex-hull.js';
