export * from './agents.js';
export * from './finding.js';
export { findingsOf } from './findings.js';
export * from './stamps.js';
