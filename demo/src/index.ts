export * from './fill.js';
export * from './sample-file.js';
export * from './sample-set-out.js';
export * from './sample-yard.js';
export * from './taken-pieces.js';
