export * from './agents.js';
export * from './finding.js';
export { findingsOf } from './findings.js';
export * from './proxy-facts.js';
export * from './shelf-facts.js';
export * from './stamps.js';
