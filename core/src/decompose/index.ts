export * from './decompose.js';
export { DecomposeError } from './decompose-error.js';
export * from './wrap.js';
