export { countUp } from './names.js';
export { operate } from './operate.js';
export * from './operation.js';
export type { Reshape } from './reshaping.js';
