export * from './measure.js';
export * from './move-shape.js';
export * from './shape.js';
export * from './tessellate.js';
export * from './distance.js';
