import * as z from 'zod';
import { pivotSchema } from '../pivot.js';
import { editKind } from './edit-kind.js';
import { withPivots } from './set-pivots.js';

export const setFamily = editKind({
  schema: z.object({
    kind: z.literal('set-family'),
    family: z.string().trim().min(1).max(120).nullable(),
    pivot: pivotSchema.optional(),
  }),
  apply: (document, { family, pivot }) =>
    withPivots({ ...document, family }, pivot ? [{ part: null, pivot }] : []),
  describe: ({ family }) => (family === null ? 'remove from family' : `family ${family}`),
});
