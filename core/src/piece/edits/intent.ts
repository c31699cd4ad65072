import * as z from 'zod';

/** Which parts something was done to, said so that it means something on another piece. */
export const partSelectorSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('all') }),
  z.object({ by: z.literal('name'), names: z.array(z.string()).max(1000) }),
]);
export type PartSelector = z.infer<typeof partSelectorSchema>;

// Its own type is too deep for the compiler to compare.
const json = z.json() as z.ZodType<unknown>;

/**
 * What a result came from: the operation, its parameters, and what it was done to. A list of intents is a recipe;
 * parameters are read by the operation that runs them again.
 *
 * @example { op: 'weld', parts: { by: 'all' }, parameters: { metres: 0.0002 } }
 */
export const intentSchema = z.object({
  op: z.string().min(1).max(40),
  parts: partSelectorSchema.optional(),
  parameters: z.record(z.string().max(40), json).default({}),
});
export type Intent = z.infer<typeof intentSchema>;
