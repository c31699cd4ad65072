export { type CentreLine, findCentreLine } from './centre-line.js';
export * from './chain.js';
export * from './decompose.js';
export { type DecomposeOptions, MOST_RUNG } from './options.js';
export { deviationOf } from './rungs.js';
export { DecomposeError } from './decompose-error.js';
export * from './wrap.js';
