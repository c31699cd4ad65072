export * from './of-rules.js';
export * from './yard-rules.js';
export * from './delivery-states.js';
export { checkRulesOfYard, namesForTargets, type NamesForTargets } from './names-for-targets.js';
