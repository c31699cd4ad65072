import * as z from 'zod';
import { type Quat, quatSchema, type Vec3, vec3Schema } from '../../math/index.js';
import { meshFactsSchema } from '../../solid/index.js';
import { moveShape, turnShape } from '../../shape/index.js';
import { materialSchema, meshTableSchema, nodeSchema, type Proxy, unitSchema } from '../document.js';
import { withoutLink } from '../linked-shapes.js';
import { placingSchema } from '../placing.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';
import { OPERATION_LABELS, operationNameSchema } from './operation-labels.js';
import { leaderless, withoutStrays } from './strays.js';

/** The tree and its meshes after an operation. Meshes are stored before the edit is made. */
export const reshapedSchema = z.object({
  nodes: z.array(nodeSchema),
  meshes: meshTableSchema,
  whole: meshFactsSchema,
  materials: z.array(materialSchema),
  unit: unitSchema,
  placing: placingSchema,
});
export type Reshaped = z.infer<typeof reshapedSchema>;

/** What an operation on the tree and its meshes came to, with the intent it came from. */
export const reshape = editKind({
  schema: reshapedSchema.extend({
    kind: z.literal('reshape'),
    /** absent in edits that were stored before operations were named */
    op: operationNameSchema.optional(),
    intent: intentSchema.optional(),
    /** shapes that are turned about the piece's origin and shifted with the parts they belong to */
    carried: z.object({ turn: quatSchema, shift: vec3Schema, proxies: z.array(z.string()) }).optional(),
  }),
  apply(document, edit) {
    const { kind: _kind, op: _op, intent: _intent, carried, ...reshaped } = edit;
    const proxies = carried ? carriedAlong(document.proxies, carried) : document.proxies;
    return withoutStrays({ ...document, ...reshaped, nodes: leaderless(document, reshaped.nodes), proxies });
  },
  describe: ({ op }) => (op ? OPERATION_LABELS[op] : 'operation'),
});

function carriedAlong(
  proxies: readonly Proxy[],
  { turn, shift, proxies: ids }: { turn: Quat; shift: Vec3; proxies: readonly string[] },
): Proxy[] {
  return proxies.map((proxy) =>
    ids.includes(proxy.id)
      ? { ...withoutLink(proxy), shape: moveShape(turnShape(proxy.shape, turn), shift) }
      : proxy,
  );
}
