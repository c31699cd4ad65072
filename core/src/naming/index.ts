export * from './mesh-name.js';
export * from './proxy-name.js';
