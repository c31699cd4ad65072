export * from './of-rules.js';
export * from './yard-rules.js';
export * from './delivery-states.js';
export * from './renames.js';
