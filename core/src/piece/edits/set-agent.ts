import * as z from 'zod';
import { editKind } from './edit-kind.js';

/** For whom the shapes are judged; null for the yard's usual agent. */
export const setAgent = editKind({
  schema: z.object({ kind: z.literal('set-agent'), agent: z.string().max(40).nullable() }),
  apply: (document, { agent }) => ({ ...document, agent }),
  describe: () => 'who collides',
});
