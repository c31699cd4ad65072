import * as z from 'zod';
import { pivotSchema } from '../pivot.js';
import { editKind } from './edit-kind.js';

/** The second pivot, for presentation; null takes it away. */
export const setPresentation = editKind({
  schema: z.object({ kind: z.literal('set-presentation'), pivot: pivotSchema.nullable() }),
  apply: (document, { pivot }) => ({ ...document, presentation: pivot }),
  describe: ({ pivot }) => (pivot ? 'presentation pivot' : 'remove the presentation pivot'),
});
