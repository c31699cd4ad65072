import type { CheckRules } from '../check/index.js';
import type { TargetProfile } from './profile.js';
import { nameRulesOf } from './proxy-names.js';

/** A text that is the same for two targets exactly when they take shapes alike. */
export const takesOf = ({ kinds, solids }: Pick<TargetProfile, 'kinds' | 'solids'>): string =>
  JSON.stringify([kinds, solids.maxHullVertices]);

const known = new WeakMap<TargetProfile, CheckRules>();

/** What findings ask of a target. The same profile answers the same object. */
export function checkRulesOf(profile: TargetProfile): CheckRules {
  const rules = known.get(profile) ?? {
    names: nameRulesOf(profile),
    dropsConstants: profile.constants === 'dropped',
    maxShapes: profile.solids.maxShapes,
    maxHullVertices: profile.solids.maxHullVertices,
    kinds: profile.kinds.known,
    takes: takesOf(profile),
  };
  known.set(profile, rules);
  return rules;
}
