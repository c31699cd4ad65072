import * as z from 'zod';
import { agentSchema, FIRST_AGENTS } from '../check/index.js';
import { DISPLAY_UNITS } from '../math/index.js';
import { NAME_FIELDS, patternFault } from '../naming/index.js';
import { MAX_RECIPES, recipeSchema } from '../recipe/index.js';
import { deliveryChoicesSchema, profileById, targetProfileSchema } from '../target/index.js';

/** The version of rules that are written today. */
export const RULES_VERSION = 1;

const shortName = z.string().trim().min(1, 'A name is needed.').max(60);
const metres = z.number().max(1000);

export const contactSurfaceSchema = z.object({
  name: shortName,
  friction: z.number().min(0).max(10),
  restitution: z.number().min(0).max(1),
  /** kilograms a cubic metre */
  density: z.number().positive().max(100_000).optional(),
});

/** A slot by the name that pieces have it under, and the material of a target's own that stands for it. */
export const materialNameSchema = z.object({
  slot: shortName.max(255),
  target: z.string().max(60),
  own: shortName.max(255),
  /** name of the part on which it is so, before what is said of every part; empty for every part */
  part: z.string().trim().max(255).optional(),
});

/** What a piece up to a size may cost. */
export const budgetSchema = z.object({
  /** longest side, in metres */
  upToMetres: z.number().positive().max(100_000),
  shapes: z.number().int().positive().max(1024),
  corners: z.number().int().positive().max(1_000_000),
});
export type Budget = z.infer<typeof budgetSchema>;

/** What of a trial a yard can ask for. */
export const ASKED_TRIALS = ['walk', 'pour', 'drop', 'swing', 'slide', 'drive'] as const;

export const trialRulesSchema = z.object({
  /** what has to have passed before the step is clear */
  asked: z.array(z.enum(ASKED_TRIALS)),
  /** ids of the agents that walk; none: the one that the piece is judged for */
  walkers: z.array(z.string().max(40)).max(12),
  /** ground that rises or falls by more at once shakes who walks, metres */
  joltMetres: metres.positive('A jolt is longer than 0.'),
});
export type TrialRules = z.infer<typeof trialRulesSchema>;
export const FIRST_TRIALS: TrialRules = { asked: ['walk'], walkers: [], joltMetres: 0.05 };

const pattern = z
  .string()
  .max(1000)
  .superRefine((text, context) => {
    const fault = patternFault(text);
    if (fault) context.addIssue({ code: 'custom', message: fault });
  });

/** What can be named by a pattern. */
export const NAMED_THINGS = ['piece', 'mesh', 'part', 'material', 'picture', 'file', 'folder'] as const;
export type NamedThing = (typeof NAMED_THINGS)[number];

/** Choices of a delivery by a name, for one target. */
export const presetSchema = z.object({
  name: shortName,
  target: z.string().max(60),
  choices: deliveryChoicesSchema.omit({
    variant: true,
    together: true,
    stem: true,
    code: true,
    note: true,
    set: true,
    parts: true,
    materialNames: true,
    partMaterials: true,
  }),
});
export type Preset = z.infer<typeof presetSchema>;

const folder = z
  .string()
  .max(120)
  .refine(
    (path) => !/[\\:*?"<>|]/.test(path) && !path.split('/').some((step) => step === '..' || step === '.'),
    'A folder is words with “/” between them, and stays below the piece’s own.',
  );

const rulesFields = z.object({
  format: z.literal(RULES_VERSION),
  /** metres between the heavier lines of the grid */
  gridMetres: z.number().positive('The grid step is longer than 0.').max(1000),
  /** in which lengths are shown */
  unit: z.enum(DISPLAY_UNITS),
  /** who collides */
  agents: z.array(agentSchema).min(1, 'A yard has one agent at least.').max(12),
  /** id of the agent that pieces are judged for where none was chosen; null for the middle one */
  agent: z.string().max(40).nullable(),
  /** vertices closer than this are offered to be merged */
  weldMetres: metres.positive('The weld distance is longer than 0.'),
  /** pixels a metre that textures are measured against */
  pixelsPerMetre: z.number().positive().max(100_000),
  /** pixels a metre of baked light */
  bakedPixelsPerMetre: z.number().positive().max(100_000),
  /** by size, the smallest first; none: nothing is too many but for the target */
  budgets: z.array(budgetSchema).max(12),
  openings: z.object({
    /** that an opening must leave beside who passes */
    marginMetres: metres.nonnegative(),
  }),
  surfaces: z.array(contactSurfaceSchema).max(64),
  /** what shapes do to what touches them, by the names that the levels use */
  responses: z.array(shortName).max(64),
  /** what material slots are called in a target that has them already: nothing is made twice there */
  materialNames: z.array(materialNameSchema).max(500).default([]),
  trials: trialRulesSchema.default(FIRST_TRIALS),
  /** ids of the targets, the first is the default */
  targets: z.array(z.string().max(60)).min(1, 'A yard has one target at least.').max(12),
  /** profiles of the yard's own */
  profiles: z.array(targetProfileSchema).max(24),
  presets: z.array(presetSchema).max(64),
  recipes: z.array(recipeSchema).max(MAX_RECIPES).default([]),
  names: z.partialRecord(z.enum(NAMED_THINGS), pattern),
  /** what fields of patterns hold for every piece of the yard */
  nameFields: z.partialRecord(z.enum(NAME_FIELDS), z.string().max(60)),
  /** below a piece's own folder */
  folders: z.object({ models: folder, pictures: folder, papers: folder }),
});

/** All that a yard decides for its pieces: one value, of one version. */
export const yardRulesSchema = rulesFields.superRefine((rules, context) => {
  const refuse = (path: PropertyKey[], message: string) =>
    context.addIssue({ code: 'custom', path, message });
  const twice = (path: PropertyKey, names: readonly string[], what: string) =>
    names.forEach((name, i) => {
      if (names.findIndex((other) => other.toLowerCase() === name.toLowerCase()) < i)
        refuse([path, i], `Two ${what} are called “${name}”; rename one.`);
    });
  const ids = rules.agents.map(({ id }) => id);
  twice(
    'agents',
    rules.agents.map(({ name }) => name),
    'agents',
  );
  if (new Set(ids).size < ids.length) refuse(['agents'], 'Two agents have one id.');
  if (rules.agent !== null && !ids.includes(rules.agent))
    refuse(['agent'], `There is no agent “${rules.agent}”; choose another one.`);
  rules.trials.walkers.forEach((id, i) => {
    if (!ids.includes(id)) refuse(['trials', 'walkers', i], `There is no agent “${id}”; choose another one.`);
  });
  rules.budgets.forEach(({ upToMetres }, i) => {
    const before = rules.budgets[i - 1];
    if (before && before.upToMetres >= upToMetres)
      refuse(
        ['budgets', i, 'upToMetres'],
        `It is no larger than the size before it, ${before.upToMetres} m.`,
      );
  });
  twice(
    'surfaces',
    rules.surfaces.map(({ name }) => name),
    'surfaces',
  );
  twice('responses', rules.responses, 'responses');
  twice(
    'recipes',
    rules.recipes.map(({ name }) => name),
    'recipes',
  );
  rules.recipes.forEach(({ key }, i) => {
    if (key !== undefined && rules.recipes.findIndex((other) => other.key === key) < i)
      refuse(['recipes', i, 'key'], `Two recipes have the key ${key.toUpperCase()}; give one another.`);
  });
  twice(
    'profiles',
    rules.profiles.map(({ name }) => name),
    'profiles',
  );
  rules.profiles.forEach(({ id }, i) => {
    if (profileById(id))
      refuse(['profiles', i, 'id'], `“${id}” is a profile that ships; give yours another id.`);
    if (rules.profiles.findIndex((other) => other.id === id) < i)
      refuse(['profiles', i, 'id'], `Two profiles have the id “${id}”.`);
  });
  const known = (id: string) => profileById(id) ?? rules.profiles.find((profile) => profile.id === id);
  rules.targets.forEach((id, i) => {
    if (!known(id)) refuse(['targets', i], `There is no profile “${id}”; choose another one.`);
    if (rules.targets.indexOf(id) < i) refuse(['targets', i], `The target “${id}” is listed twice.`);
  });
  rules.materialNames.forEach(({ slot, target, part = '' }, i) => {
    if (!known(target))
      refuse(['materialNames', i, 'target'], `There is no profile “${target}”; choose another one.`);
    const same = rules.materialNames.findIndex(
      (other) => other.slot === slot && other.target === target && (other.part ?? '') === part,
    );
    if (same < i)
      refuse(
        ['materialNames', i, 'slot'],
        `“${slot}”${part ? ` of “${part}”` : ''} has a name in that target already.`,
      );
  });
  rules.presets.forEach(({ name, target }, i) => {
    if (!known(target))
      refuse(['presets', i, 'target'], `There is no profile “${target}”; choose another one.`);
    if (rules.presets.findIndex((other) => other.name === name && other.target === target) < i)
      refuse(['presets', i, 'name'], `Two presets of ${target} are called “${name}”; rename one.`);
  });
});

export type YardRules = z.infer<typeof yardRulesSchema>;

/** What a new yard starts with. */
export const FIRST_RULES: YardRules = {
  format: RULES_VERSION,
  gridMetres: 4,
  unit: 'm',
  agents: [...FIRST_AGENTS],
  agent: null,
  weldMetres: 2e-4,
  pixelsPerMetre: 512,
  bakedPixelsPerMetre: 64,
  budgets: [
    { upToMetres: 0.5, shapes: 12, corners: 256 },
    { upToMetres: 2, shapes: 32, corners: 768 },
    { upToMetres: 8, shapes: 128, corners: 4096 },
    { upToMetres: 1000, shapes: 256, corners: 8192 },
  ],
  openings: { marginMetres: 0 },
  surfaces: [],
  responses: [],
  materialNames: [],
  trials: FIRST_TRIALS,
  targets: ['prefix-tags'],
  profiles: [],
  presets: [],
  recipes: [],
  names: {},
  nameFields: {},
  folders: { models: '', pictures: '', papers: '' },
};
