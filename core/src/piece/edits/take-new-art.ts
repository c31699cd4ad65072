import * as z from 'zod';
import { pictureSchema, sourceSchema } from '../document.js';
import { pivotSchema } from '../pivot.js';
import { editKind } from './edit-kind.js';
import { reshapedSchema } from './reshape.js';
import { leaderless, withoutStrays } from './strays.js';

export const takeNewArt = editKind({
  schema: reshapedSchema.extend({
    kind: z.literal('take-new-art'),
    source: sourceSchema,
    pictures: z.array(pictureSchema),
    pivot: pivotSchema,
  }),
  apply(document, { kind: _kind, ...art }) {
    return withoutStrays({ ...document, ...art, nodes: leaderless(document, art.nodes) });
  },
  describe: () => 'new art',
});
