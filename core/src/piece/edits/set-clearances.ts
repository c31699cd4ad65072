import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { clearanceSchema, MAX_CLEARANCES } from '../document.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';

export const setClearances = editKind({
  schema: z.object({
    kind: z.literal('set-clearances'),
    clearances: z.array(clearanceSchema).max(MAX_CLEARANCES),
    intent: intentSchema.optional(),
  }),
  apply: (document, { clearances }) => ({ ...document, clearances }),
  describe: ({ clearances }) => counted(clearances.length, 'clearance'),
});
