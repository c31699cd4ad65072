import * as z from 'zod';
import { keptSetSchema, MAX_NAME_CHARACTERS, type PieceDocument } from '../document.js';
import { editKind } from './edit-kind.js';

const name = z.string().trim().min(1).max(MAX_NAME_CHARACTERS);

/**
 * Sets of shapes beside the one in use. `keep` puts the shapes in use aside under a name, `use` takes those of a name
 * into use, `remove` forgets one; in this order, so that one can be kept and another taken in one step.
 *
 * @example { kind: 'change-sets', keep: { name: 'rough' }, use: 'gull' }
 */
export const changeSets = editKind({
  schema: z.object({
    kind: z.literal('change-sets'),
    keep: z.object({ name, measured: keptSetSchema.shape.measured }).optional(),
    use: name.optional(),
    remove: name.optional(),
  }),
  apply(document, { keep, use, remove }) {
    let { sets, proxies } = document;
    if (keep) sets = [...sets.filter((set) => set.name !== keep.name), { ...keep, proxies }];
    proxies = (use !== undefined && sets.find((set) => set.name === use)?.proxies) || proxies;
    if (remove !== undefined) sets = sets.filter((set) => set.name !== remove);
    return { ...document, sets, proxies };
  },
  describe: ({ keep, use, remove }) =>
    use !== undefined ? `use “${use}”` : keep ? `keep “${keep.name}”` : `remove “${remove ?? ''}”`,
});

/** Every set of a document through one change of its shapes: the one in use and those that are kept. */
export const eachSet = (
  document: PieceDocument,
  change: (proxies: PieceDocument['proxies']) => PieceDocument['proxies'],
): Pick<PieceDocument, 'proxies' | 'sets'> => ({
  proxies: change(document.proxies),
  sets: document.sets.map((set) => ({ ...set, proxies: change(set.proxies) })),
});
