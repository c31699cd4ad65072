export { type CentreLine, findCentreLine } from './centre-line.js';
export * from './chain.js';
export * from './decompose.js';
export { DecomposeError } from './decompose-error.js';
export * from './wrap.js';
