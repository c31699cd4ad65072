export * from './mesh-name.js';
export * from './pattern.js';
export * from './renames.js';
