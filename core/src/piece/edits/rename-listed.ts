import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { innerNameSchema } from '../document.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';
import { renamed } from './renamed.js';

const WORDS = { materials: 'material', pictures: 'picture' } as const;

export const renameListed = editKind({
  schema: z.object({
    kind: z.literal('rename-listed'),
    list: z.enum(['materials', 'pictures']),
    /** numbers in the list, with their new names */
    names: z
      .array(z.object({ number: z.number().int().nonnegative(), name: innerNameSchema.min(1).max(255) }))
      .min(1),
    intent: intentSchema.optional(),
  }),
  apply(document, { list, names }) {
    const known = new Map(names.map(({ number, name }) => [number, name]));
    const name = (i: number, old: string) => known.get(i) ?? old;
    return list === 'materials'
      ? {
          ...document,
          materials: document.materials.map((each, i) =>
            known.has(i) ? renamed(each, known.get(i)!) : each,
          ),
        }
      : {
          ...document,
          pictures: document.pictures.map((each, i) => ({ ...each, name: name(i, each.name) })),
        };
  },
  describe: ({ list, names }) => `rename ${counted(names.length, WORDS[list])}`,
});
