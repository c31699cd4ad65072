export * from './measure.js';
export * from './mirror-shape.js';
export * from './move-shape.js';
export * from './shape.js';
export * from './tessellate.js';
