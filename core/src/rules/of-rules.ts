import {
  type Agent,
  type AskedTrials,
  bodyTrialKey,
  bodyTrialText,
  type CheckRules,
  costText,
  judgedAgent,
  type ProxyFacts,
  walkText,
  walkTrialKey,
} from '../check/index.js';
import { meshNameFrom, namePattern, PatternError } from '../naming/index.js';
import { givenNameSchema, type PieceDocument } from '../piece/index.js';
import type { RecipeYard } from '../recipe/index.js';
import {
  checkRulesOf,
  type DeliveryChoices,
  profileById,
  takesOf,
  type TargetProfile,
} from '../target/index.js';
import type { Budget, YardRules } from './yard-rules.js';

/** A profile that ships or is the yard's own. @throws Error when there is none: an unknown target is never silently another */
export function profileIn({ profiles }: Pick<YardRules, 'profiles'>, id: string): TargetProfile {
  const found = profiles.find((profile) => profile.id === id) ?? profileById(id);
  if (!found) throw new Error(`there is no target profile “${id}”`);
  return found;
}

/** What recipes ask of a yard. */
export const recipeYard = (rules: YardRules): RecipeYard => ({
  agents: rules.agents,
  agent: rules.agent,
  targets: targetsOf(rules),
  nameFields: rules.nameFields,
  joltMetres: rules.trials.joltMetres,
  checks: (document, profile) => checkRulesFor(document, rules, profile),
});

/** The targets of a yard in their order, the default first. */
export const targetsOf = (rules: Pick<YardRules, 'profiles' | 'targets'>): TargetProfile[] =>
  rules.targets.map((id) => profileIn(rules, id));

/** What shapes are judged and drawn for where no target is named. */
export const defaultTarget = (rules: Pick<YardRules, 'profiles' | 'targets'>): TargetProfile =>
  profileIn(rules, rules.targets[0]!);

/** The agent that a piece is judged for. */
export const agentFor = (
  document: Pick<PieceDocument, 'agent'>,
  { agents, agent }: Pick<YardRules, 'agents' | 'agent'>,
): Agent | undefined => judgedAgent({ agent: document.agent ?? agent }, agents);

/** What a piece of a size may cost: the budget of the first class that it fits into; null without any. */
export const budgetFor = ({ budgets }: Pick<YardRules, 'budgets'>, longestMetres: number): Budget | null =>
  budgets.find(({ upToMetres }) => longestMetres <= upToMetres) ?? null;

/** All that findings ask of a yard's rules and one of its targets. */
export function checkRulesFor(
  document: Pick<PieceDocument, 'agent'>,
  rules: YardRules,
  profile: TargetProfile,
): CheckRules {
  const agent = agentFor(document, rules);
  return {
    ...checkRulesOf(profile),
    ...(agent ? { agent } : {}),
    budgets: rules.budgets,
    trials: askedTrials(document, rules),
  };
}

/** Who has to walk at a piece by the rules of its yard: those that they name, or the one that it is judged for. */
export function askedTrials(
  document: Pick<PieceDocument, 'agent'>,
  rules: Pick<YardRules, 'agents' | 'agent' | 'trials'>,
): AskedTrials {
  const { asked, walkers, joltMetres } = rules.trials;
  const judged = agentFor(document, rules);
  const named = rules.agents.filter(({ id }) => walkers.includes(id));
  return {
    walk: asked.includes('walk'),
    walkers: named.length ? named : judged ? [judged] : [],
    bodies: asked.filter((each) => each !== 'walk'),
    joltMetres,
  };
}

/**
 * The folder of a piece's deliveries by the yard's pattern, steps with “/” between; empty without a pattern. Whatever
 * the piece is called, it stays below.
 *
 * @throws PatternError when the pattern asks for what is not known of the piece
 */
export function pieceFolder(
  { names, nameFields }: Pick<YardRules, 'names' | 'nameFields'>,
  { name }: Pick<PieceDocument, 'name'>,
): string {
  if (names.folder === undefined) return '';
  const known = Object.entries(nameFields).filter(([, value]) => value);
  const subject = asFolder(name);
  return namePattern(names.folder)
    .format({ ...Object.fromEntries(known), subject })
    .split('/')
    .map(asFolder)
    .join('/');
}

/** A name as one step of a path on any file system. */
const asFolder = (name: string): string =>
  name
    .replace(/[\\/:*?"<>|]/g, '-')
    .replace(/[. ]+$/, '')
    .replace(/^\.+/, '') || '_';

/** The mesh name that a piece's own gives: by the yard's pattern, where it has one that can be filled. */
export function meshNameBy(
  { names, nameFields }: Pick<YardRules, 'names' | 'nameFields'>,
  name: string,
): string {
  return named({ names, nameFields }, 'mesh', name) ?? meshNameFrom(name);
}

/** A new piece under the names that the yard's patterns give it; as it came where there are none, or it cannot be called so. */
export function namedByRules(
  document: PieceDocument,
  rules: Pick<YardRules, 'names' | 'nameFields'>,
): PieceDocument {
  const wanted = named(rules, 'piece', document.name) ?? document.name;
  const name = givenNameSchema.safeParse(wanted).data ?? document.name;
  const mesh = named(rules, 'mesh', name);
  return {
    ...document,
    name,
    meshName: mesh ?? (name === document.name ? document.meshName : meshNameFrom(name)),
  };
}

/**
 * Choices of a delivery for a target with the file named by the yard's pattern, the yard's code, and the names that the
 * target has for material slots, where nothing else was chosen.
 */
export function choicesByRules(
  choices: DeliveryChoices,
  rules: Pick<YardRules, 'names' | 'nameFields' | 'materialNames'>,
  { name }: Pick<PieceDocument, 'name'>,
  target: string,
): DeliveryChoices {
  const forTarget = rules.materialNames.filter((each) => each.target === target);
  const everywhere = forTarget.filter(({ part }) => !part);
  const onParts = forTarget.filter(({ part }) => part);
  const stem = named(rules, 'file', name);
  const { code } = rules.nameFields;
  return {
    ...(stem === null ? {} : { stem: asFolder(stem) }),
    ...(code ? { code } : {}),
    ...(everywhere.length
      ? { materialNames: Object.fromEntries(everywhere.map((each) => [each.slot, each.own])) }
      : {}),
    ...(onParts.length
      ? { partMaterials: onParts.map(({ part = '', slot, own: name }) => ({ part, slot, own: name })) }
      : {}),
    ...choices,
  };
}

/** What the yard's pattern makes of a piece's name; null without one, or where it asks for what is not known. */
function named(
  { names, nameFields }: Pick<YardRules, 'names' | 'nameFields'>,
  thing: 'piece' | 'mesh' | 'file',
  subject: string,
): string | null {
  const pattern = names[thing];
  if (pattern === undefined) return null;
  const known = Object.fromEntries(Object.entries(nameFields).filter(([, value]) => value));
  try {
    return namePattern(pattern).format({ variant: '1', number: '1', ...known, subject });
  } catch (error) {
    if (error instanceof PatternError) return null;
    throw error;
  }
}

/**
 * What was tried on a piece as it leaves, a line each, for the sheet that goes along: trials of earlier states are left
 * out.
 */
export function triedLines(
  document: PieceDocument,
  rules: YardRules,
  profile: TargetProfile,
  measured: Pick<ProxyFacts, 'trials'> | null,
): string[] {
  const { walks = [], bodies = [], cost } = measured?.trials ?? {};
  const limits = askedTrials(document, rules);
  const takes = takesOf(profile);
  return [
    ...rules.agents.flatMap((agent) =>
      walks
        .filter(
          (walk) => walk.agent === agent.id && walk.key === walkTrialKey(document, agent, limits, takes),
        )
        .map((walk) => `Walked at from all sides by the ${agent.name}: ${walkText(walk)}.`),
    ),
    ...bodies
      .filter((trial) => trial.key === bodyTrialKey(document, trial.ask, takes))
      .map((trial) => {
        const { name, text } = bodyTrialText(trial, document);
        return `${name[0]!.toUpperCase()}${name.slice(1)}: ${text}.`;
      }),
    ...(cost?.key === bodyTrialKey(document, null, takes) ? [costText(cost)] : []),
  ];
}
