export * from './comparer.js';
export * from './comparison.js';
export { bodyAround, bodyOf, lensBetween, sharedBy, type Shared } from './convex-overlap.js';
export { type EdgeAlong, edgesAlong, type LineToFollow } from './edges-along.js';
export * from './judge.js';
export * from './judge-set.js';

export { openClearances } from './open-clearances.js';
export { shapeDistance } from './shape-distance.js';
export * from './proxy-fit.js';
export { costOf } from './set-cost.js';
