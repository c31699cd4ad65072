export * from './arrange.js';
export * from './put-placements.js';
export * from './set-out-history.js';
export * from './set-out.js';
