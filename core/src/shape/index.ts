export * from './measure.js';
export * from './move-shape.js';
export * from './shape.js';
export * from './tessellate.js';
