import * as z from 'zod';

/** What a part is among the others. */
export const PART_ROLES = ['hinged', 'fixed', 'colliding', 'not-colliding', 'largest'] as const;

const size = z.number().nonnegative().max(1e9);
const shells = z.number().int().nonnegative();

/** Which parts something was done to, said so that it means something on another piece. */
export const partSelectorSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('all') }),
  z.object({ by: z.literal('name'), names: z.array(z.string()).max(1000) }),
  /** parts of which everything that is said here is so; patterns have “*” for any characters and “?” for one */
  z.strictObject({
    by: z.literal('where'),
    name: z.string().max(200).optional(),
    /** name of a material that some of its faces have */
    material: z.string().max(200).optional(),
    /** longest side, metres */
    minMetres: size.optional(),
    maxMetres: size.optional(),
    /** connected surfaces that its mesh is made of */
    minShells: shells.optional(),
    maxShells: shells.optional(),
    role: z.enum(PART_ROLES).optional(),
    /** all others instead */
    except: z.boolean().optional(),
  }),
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
