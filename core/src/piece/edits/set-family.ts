import * as z from 'zod';
import { vec3Schema } from '../../math/schemas.js';
import { pivotSchema } from '../pivot.js';
import { editKind } from './edit-kind.js';
import { withPivots } from './set-pivots.js';

export const setFamily = editKind({
  schema: z.object({
    kind: z.literal('set-family'),
    family: z.string().trim().min(1).max(120).nullable(),
    pivot: pivotSchema.optional(),
    /** see `familyFeature` of the document; absent in older edits, which joined by the bounds */
    feature: vec3Schema.nullable().optional(),
  }),
  apply: (document, { family, pivot, feature = null }) =>
    withPivots({ ...document, family, familyFeature: feature }, pivot ? [{ part: null, pivot }] : []),
  describe: ({ family }) => (family === null ? 'remove from family' : `family ${family}`),
});
