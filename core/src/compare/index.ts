export * from './comparer.js';
export * from './comparison.js';
export * from './judge.js';
export { shapeDistance, type ShapeDistance } from './shape-distance.js';
