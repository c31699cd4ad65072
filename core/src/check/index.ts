export * from './agents.js';
export * from './finding.js';
export { findingsOf } from './findings.js';
export { type FixSetInput, fixSet, type SetFix, setFixSchema } from './fix-set.js';
export * from './proxy-facts.js';
export { proxyKey } from './proxy-key.js';
export { type SetFacts, setFactsOf, setFactsSchema, setKey, setOf } from './set-facts.js';
export * from './shelf-facts.js';
export * from './stamps.js';
