export * from './bounds.js';
export * from './rotation.js';
export * from './transform.js';
export * from './units.js';
export * from './vector.js';
