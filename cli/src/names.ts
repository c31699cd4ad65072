import {
  legalName,
  nameFault,
  nameFaultsOf,
  type NamePattern,
  namePattern,
  nameRulesOf,
  PatternError,
  planDelivery,
  type TargetProfile,
} from '@yard-brace/core';
import { profilesFrom, rulesFrom } from './given-rules.js';
import type { Options, Result } from './result.js';
import { takeInFile } from './take-in-file.js';
import { UsageError } from './usage-error.js';

/** Names as a target takes them, or as a pattern makes them. */
export async function names(given: readonly string[], options: Options): Promise<Result> {
  const rules = await rulesFrom(options.rules);
  const [profile] = profilesFrom(options.target, rules) as [TargetProfile];
  if (options.check !== undefined) return checkedFile(options.check, given, profile);
  if (!given.length) throw new UsageError('Name what is to be checked, or a file with --check.');
  const pattern = options.pattern === undefined ? null : patternFrom(options.pattern);
  const checked = given.map((name) => {
    const fault = nameFault(name, nameRulesOf(profile));
    return {
      name,
      fault,
      ...(fault ? { legal: legalName(name, nameRulesOf(profile)) } : {}),
      ...(pattern ? { fields: pattern.parse(name) } : {}),
    };
  });
  return {
    json: { target: profile.id, names: checked },
    stopped: checked.some(({ fault, fields }) => fault !== null || fields === null),
  };
}

/** Whether the piece of a file could leave for a target by the names that it has. */
async function checkedFile(path: string, beside: readonly string[], profile: TargetProfile): Promise<Result> {
  const { document } = await takeInFile([path, ...beside], undefined);
  const plan = planDelivery(document, profile);
  const { says, fixes } = nameFaultsOf(plan);
  return {
    json: {
      target: profile.id,
      names: plan.files.flatMap(({ nodes }) =>
        nodes.flatMap(({ name, shapes }) => [name, ...shapes.map((shape) => shape.name)]),
      ),
      faults: says,
      fixes: fixes.map(({ label }) => label),
    },
    stopped: says.length > 0,
  };
}

function patternFrom(text: string): NamePattern {
  try {
    return namePattern(text);
  } catch (error) {
    if (error instanceof PatternError) throw new UsageError(`--pattern: ${error.message}`);
    throw error;
  }
}
