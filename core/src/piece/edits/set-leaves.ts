import * as z from 'zod';
import { editKind } from './edit-kind.js';

export const setLeaves = editKind({
  schema: z.object({ kind: z.literal('set-leaves'), leaves: z.enum(['as-one', 'each-part']) }),
  apply: (document, { leaves }) => ({ ...document, leaves }),
  describe: ({ leaves }) => (leaves === 'as-one' ? 'deliver as one mesh' : 'deliver each part'),
});
