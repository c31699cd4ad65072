export { balanceCorners, hullMisfit } from './balance-corners.js';
export * from './clip-convex.js';
export * from './convex-hull.js';
export { hullShape } from './hull-shape.js';
export { halfSpaceCorners } from './half-spaces.js';
export { faceArea, facePlanes, planeOf } from './plane.js';
export { type BudgetSide, withEvenBudget, withVertexBudget } from './vertex-budget.js';
export { type Distance, hullDistance } from './hull-distance.js';
export { thickHull } from './thick-hull.js';
