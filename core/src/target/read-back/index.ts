export * from './compare.js';
export * from './read-back.js';
export * from './report.js';
