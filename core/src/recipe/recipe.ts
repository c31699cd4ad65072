import * as z from 'zod';
import { issueDemand, partSelectorSchema } from '../piece/index.js';
import { OTHERWISE } from './step-kind.js';
import { stepKindOf } from './step-kinds.js';

/** The version of recipes that are written today. */
export const RECIPE_VERSION = 1;

/** Most steps of one recipe, and most recipes of one yard. */
export const MAX_RECIPE_STEPS = 60;
export const MAX_RECIPES = 64;

// Its own type is too deep for the compiler to compare.
const json = z.json() as z.ZodType<unknown>;

/**
 * One step: an intent (operation, parts, parameters), and what becomes of the piece where it does not apply.
 *
 * @example { op: 'weld', parameters: { metres: 0.0002 }, otherwise: 'skip' }
 */
export const recipeStepSchema = z
  .strictObject({
    op: z.string().min(1).max(40),
    /** Default: all parts of the art */
    parts: partSelectorSchema.optional(),
    parameters: z.record(z.string().max(40), json).default({}),
    /** stop: the piece stays as it was before the recipe; skip: the next step goes on. Default: as its kind has it */
    otherwise: z.enum(OTHERWISE).optional(),
  })
  .superRefine((step, context) => {
    const kind = stepKindOf(step.op);
    if (!kind) {
      context.addIssue({ code: 'custom', path: ['op'], message: `names no step of a recipe: “${step.op}”` });
      return;
    }
    const { error } = kind.parameters.safeParse(step.parameters);
    for (const issue of error?.issues ?? [])
      context.addIssue({ code: 'custom', path: ['parameters', ...issue.path], message: issueDemand(issue) });
    if (step.parts && step.parts.by !== 'all' && !kind.parts)
      context.addIssue({
        code: 'custom',
        path: ['parts'],
        message: `cannot be chosen for “${step.op}”, which is done to the whole piece`,
      });
  });
export type RecipeStep = z.infer<typeof recipeStepSchema>;

/** A named, ordered list of intents that runs on other pieces. Deliveries are its last steps. */
export const recipeSchema = z
  .strictObject({
    format: z.literal(RECIPE_VERSION),
    name: z.string().trim().min(1, 'A recipe needs a name.').max(60),
    /** runs it on the piece that is open: a letter, with Alt. Default: none */
    key: z
      .string()
      .regex(/^[a-z]$/, 'The key of a recipe is a letter from a to z.')
      .optional(),
    steps: z.array(recipeStepSchema).min(1, 'A recipe has one step at least.').max(MAX_RECIPE_STEPS),
  })
  .superRefine(({ steps }, context) => {
    const first = steps.findIndex(({ op }) => op === 'deliver');
    if (first < 0) return;
    steps.forEach(({ op }, i) => {
      if (i > first && op !== 'deliver')
        context.addIssue({
          code: 'custom',
          path: ['steps', i],
          message: 'A piece is not changed after it left; put deliveries last.',
        });
    });
  });
export type Recipe = z.infer<typeof recipeSchema>;
