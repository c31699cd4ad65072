export * from './comparer.js';
export * from './comparison.js';
export * from './judge.js';
export { shapeDistance } from './shape-distance.js';
export * from './proxy-fit.js';
export { costOf } from './set-cost.js';
