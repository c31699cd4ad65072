export * from './blob-id.js';
export * from './document.js';
export * from './edit.js';
export * from './geometry.js';
export * from './history.js';
export * from './intake.js';
export * from './scene.js';
