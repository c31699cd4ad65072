import { readFile } from 'node:fs/promises';
import {
  CONSTANT_CHOICES,
  type Container,
  CONTAINERS,
  type DeliveryChoices,
  FILE_SPLITS,
  FIRST_RULES,
  issueSentence,
  MAX_VARIANT,
  profileIn,
  PROFILES,
  type TargetProfile,
  type YardRules,
  yardRulesSchema,
} from '@yard-brace/core';
import type { Options } from './result.js';
import { UsageError } from './usage-error.js';

/** The rules of a yard from a file, or those that every yard begins with. */
export async function rulesFrom(path: string | undefined): Promise<YardRules> {
  if (path === undefined) return FIRST_RULES;
  let value: unknown;
  try {
    value = JSON.parse(await readFile(path, 'utf8'));
  } catch {
    throw new UsageError(`${path} cannot be read as JSON; save the rules of a yard to a file and name that.`);
  }
  const read = yardRulesSchema.safeParse(value);
  if (read.success) return read.data;
  throw new UsageError(`${path}: ${issueSentence(read.error.issues[0]!)}`);
}

/** Profiles by their ids; without any, the targets of the rules. */
export function profilesFrom(ids: readonly string[] | undefined, rules: YardRules): TargetProfile[] {
  const known = [...PROFILES, ...rules.profiles].map(({ id }) => id);
  const wanted = ids?.length ? ids.flatMap((text) => text.split(',')) : rules.targets;
  return wanted.map((id) => {
    if (!known.includes(id)) throw new UsageError(`--target takes ${known.join(', ')}, not “${id}”.`);
    return profileIn(rules, id);
  });
}

/** A preset of the rules by its name, and what was chosen beside it. */
export function choicesFrom(
  options: Options,
  rules: YardRules,
  { id, containers }: TargetProfile,
): DeliveryChoices {
  const preset = rules.presets.find(({ name, target }) => name === options.preset && target === id);
  if (options.preset !== undefined && !preset)
    throw new UsageError(`The rules have no preset “${options.preset}” for ${id}.`);
  const choices: DeliveryChoices = { ...preset?.choices };
  if (options.container !== undefined) {
    const container = CONTAINERS.find((each) => each === options.container) as Container | undefined;
    if (!container || !containers.includes(container))
      throw new UsageError(
        `--container takes ${containers.join(', ')} for ${id}, not “${options.container}”.`,
      );
    choices.container = container;
  }
  if (options.files !== undefined) {
    const files = FILE_SPLITS.find((each) => each === options.files);
    if (!files) throw new UsageError(`--files takes ${FILE_SPLITS.join(', ')}, not “${options.files}”.`);
    choices.files = files;
  }
  if (options.values !== undefined) {
    const constants = CONSTANT_CHOICES.find((each) => each === `as-${options.values}`);
    if (!constants) throw new UsageError(`--values takes values or pictures, not “${options.values}”.`);
    choices.constants = constants;
  }
  if (options.variant !== undefined) {
    const variant = Number(options.variant);
    if (!Number.isInteger(variant) || variant < 2 || variant > MAX_VARIANT)
      throw new UsageError(`--variant takes 2 to ${MAX_VARIANT}, not “${options.variant}”.`);
    choices.variant = variant;
  }
  for (const said of ['together', 'code', 'note'] as const)
    if (options[said] !== undefined) choices[said] = options[said];
  return choices;
}
