export * from './comparer.js';
export * from './comparison.js';
export * from './judge.js';
