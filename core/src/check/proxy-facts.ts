import * as z from 'zod';
import { setFactsSchema } from './set-facts.js';
import { trialFactsSchema } from './trial-facts.js';

/** How the shapes of a piece lie to its art, and the state that this was measured on. Lengths in metres. */
export const proxyFactsSchema = z.object({
  key: z.string().regex(/^[0-9a-f]{64}$/),
  /** art outside the shapes, at most */
  artOutside: z.number().nonnegative(),
  /** shapes outside the art, at most */
  proxyOutside: z.number().nonnegative(),
  /** the set as it was judged; absent where it was measured before sets were */
  judged: setFactsSchema.optional(),
  /** what was tried with them, each on the state that it names */
  trials: trialFactsSchema.optional(),
});
export type ProxyFacts = z.infer<typeof proxyFactsSchema>;
