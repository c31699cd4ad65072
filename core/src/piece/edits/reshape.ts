import * as z from 'zod';
import { type Quat, quatSchema, type Vec3, vec3Schema } from '../../math/index.js';
import { meshFactsSchema } from '../../solid/index.js';
import { moveShape, turnShape } from '../../shape/index.js';
import {
  areaSchema,
  clearanceSchema,
  facesOfPartsSchema,
  materialSchema,
  MAX_AREAS,
  MAX_CLEARANCES,
  MAX_RIDDEN_EDGES,
  meshTableSchema,
  nodeSchema,
  type PieceDocument,
  proxiesSchema,
  type Proxy,
  riddenEdgeSchema,
  unitSchema,
} from '../document.js';
import { withoutLink } from '../linked-shapes.js';
import { pivotSchema } from '../pivot.js';
import { placingSchema } from '../placing.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';
import { OPERATION_LABELS, operationNameSchema } from './operation-labels.js';
import { proxiesAfter } from './put-proxies.js';
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

/** Shapes of one set that are changed, added under new ids, or go. */
const shapesOfSetSchema = z.object({
  set: z.string().nullable(),
  changed: proxiesSchema,
  removed: z.array(z.string()),
});
export type ShapesOfSet = z.infer<typeof shapesOfSetSchema>;

function withShapes(document: PieceDocument, shapes: readonly ShapesOfSet[]): PieceDocument {
  const after = (set: string | null, proxies: PieceDocument['proxies']) => {
    const change = shapes.find((each) => each.set === set);
    return change ? proxiesAfter(proxies, change) : proxies;
  };
  return {
    ...document,
    proxies: after(null, document.proxies),
    sets: document.sets.map((set) => ({ ...set, proxies: after(set.name, set.proxies) })),
  };
}

/** What an operation on the tree and its meshes came to, with the intent it came from. */
export const reshape = editKind({
  schema: reshapedSchema.extend({
    kind: z.literal('reshape'),
    /** absent in edits that were stored before operations were named */
    op: operationNameSchema.optional(),
    intent: intentSchema.optional(),
    /** of older edits: shapes that are turned about the piece's origin and shifted with the parts they belong to */
    carried: z.object({ turn: quatSchema, shift: vec3Schema, proxies: z.array(z.string()) }).optional(),
    /** what becomes of shapes, of the set in use (null) and of those beside it */
    shapes: z.array(shapesOfSetSchema).optional(),
    /** what else has a place in the piece, where the whole of it was changed */
    pivot: pivotSchema.optional(),
    presentation: pivotSchema.nullable().optional(),
    familyFeature: vec3Schema.nullable().optional(),
    clearances: z.array(clearanceSchema).max(MAX_CLEARANCES).optional(),
    riddenEdges: z.array(riddenEdgeSchema).max(MAX_RIDDEN_EDGES).optional(),
    areas: z.array(areaSchema).max(MAX_AREAS).optional(),
    noCollision: facesOfPartsSchema.optional(),
  }),
  apply(document, edit) {
    const { kind: _kind, op: _op, intent: _intent, carried, shapes = [], ...reshaped } = edit;
    const moved = carried
      ? { ...document, proxies: carriedAlong(document.proxies, carried) }
      : withShapes(document, shapes);
    return withoutStrays({ ...moved, ...reshaped, nodes: leaderless(document, reshaped.nodes) });
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
