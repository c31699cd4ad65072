export * from './findings.js';
export * from './stamps.js';
