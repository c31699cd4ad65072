export * from './bounds.js';
export * from './transform.js';
export * from './units.js';
export * from './vector.js';
