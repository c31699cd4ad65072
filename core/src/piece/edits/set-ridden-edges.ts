import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { MAX_RIDDEN_EDGES, riddenEdgeSchema } from '../document.js';
import { editKind } from './edit-kind.js';

/** Edges that are ridden: those that are new or changed, and ids of those that are none any more. */
export const setRiddenEdges = editKind({
  schema: z.object({
    kind: z.literal('set-ridden-edges'),
    changed: z.array(riddenEdgeSchema).max(MAX_RIDDEN_EDGES),
    removed: z.array(z.string()).max(MAX_RIDDEN_EDGES),
  }),
  apply(document, { changed, removed }) {
    const put = new Map(changed.map((edge) => [edge.id, edge]));
    const kept = document.riddenEdges.filter(({ id }) => !removed.includes(id));
    const known = new Set(kept.map(({ id }) => id));
    return {
      ...document,
      riddenEdges: [
        ...kept.map((edge) => put.get(edge.id) ?? edge),
        ...changed.filter(({ id }) => !known.has(id)),
      ],
    };
  },
  describe: ({ changed, removed }) =>
    changed.length
      ? counted(changed.length, 'ridden edge')
      : `remove ${counted(removed.length, 'ridden edge')}`,
});
