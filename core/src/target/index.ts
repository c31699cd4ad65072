export * from './assemble.js';
export * from './delivered-mesh.js';
export * from './expectation.js';
export { landed } from './import-sheet.js';
export * from './profile.js';
export * from './profiles.js';
export * from './read-back/index.js';
export * from './set-apart.js';
export * from './tags.js';
