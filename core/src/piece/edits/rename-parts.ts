import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { innerNameSchema } from '../document.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';
import { renamed } from './renamed.js';

export const renameParts = editKind({
  schema: z.object({
    kind: z.literal('rename-parts'),
    names: z.array(z.object({ part: z.string(), name: innerNameSchema.min(1) })),
    intent: intentSchema.optional(),
  }),
  apply(document, edit) {
    const names = new Map(edit.names.map(({ part, name }) => [part, name]));
    const nodes = document.nodes.map((node) => {
      const name = names.get(node.id);
      return name === undefined ? node : renamed(node, name);
    });
    return { ...document, nodes };
  },
  describe: ({ names }) =>
    names.length === 1 ? `rename to “${names[0]!.name}”` : `rename ${counted(names.length, 'part')}`,
});
