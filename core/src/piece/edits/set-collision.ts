import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { editKind } from './edit-kind.js';

/** Whether parts are to be collided with: those that are not need no shapes, and are not measured against. */
export const setCollision = editKind({
  schema: z.object({
    kind: z.literal('set-collision'),
    parts: z.array(z.string()).min(1).max(10_000),
    collides: z.boolean(),
  }),
  apply(document, { parts, collides }) {
    const ids = new Set(parts);
    return {
      ...document,
      nodes: document.nodes.map(({ noCollision, ...node }) =>
        ids.has(node.id)
          ? { ...node, ...(collides ? {} : { noCollision: true as const }) }
          : { ...node, ...(noCollision ? { noCollision } : {}) },
      ),
    };
  },
  describe: ({ parts, collides }) =>
    `${counted(parts.length, 'part')} ${collides ? 'with' : 'without'} collision`,
});
