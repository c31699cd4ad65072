export { countUp } from './names.js';
export { operate } from './operate.js';
export * from './operation.js';
export * from './outcome.js';
export { outcomeText } from './outcome-text.js';
export { mirrorMatrix, placeMatrix } from './place.js';
export type { Reshape } from './reshaping.js';
