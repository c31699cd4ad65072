export * from './mesh-name.js';
export * from './pattern.js';
