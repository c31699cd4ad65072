export * from './measure.js';
export * from './mirror-shape.js';
export * from './move-shape.js';
export * from './shape.js';
export * from './tessellate.js';
export {
  after,
  changedBy,
  inverseOf,
  type Isometry,
  mirroredOver,
  NO_CHANGE,
  shifted,
  turnedAbout,
} from './isometry.js';
