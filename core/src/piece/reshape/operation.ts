import * as z from 'zod';
import { vec3Schema, quatSchema } from '../../math/schemas.js';
import type { Outcome } from './outcome.js';
import { innerNameSchema } from '../document.js';

const part = z.string();
/** ids of parts; none means every part of the art */
const parts = z.array(part);
/** chosen faces of one part, by their number in its mesh */
const facesOfPart = z.object({ part, faces: z.instanceof(Uint32Array) });
const faces = z.array(facesOfPart);
const metres = z.number().positive();

/** What can be done to the tree and its meshes. Lengths are metres and places are the piece's. */
export const operationSchema = z.discriminatedUnion('op', [
  z.object({ op: z.literal('reparent'), part, parent: part.nullable() }),
  z.object({ op: z.literal('group'), parts, name: innerNameSchema }),
  z.object({ op: z.literal('delete'), parts }),
  z.object({ op: z.literal('duplicate'), parts }),
  z.object({ op: z.literal('combine'), parts, name: innerNameSchema.optional() }),
  z.object({ op: z.literal('set-aside'), parts, aside: z.boolean() }),
  /** a part with all below it, or the whole piece under null, is turned about a point, then shifted */
  z.object({
    op: z.literal('move'),
    part: part.nullable(),
    by: vec3Schema,
    turn: quatSchema,
    about: vec3Schema,
  }),
  z.object({ op: z.literal('split-shells'), part, smallest: z.number().nonnegative() }),
  z.object({ op: z.literal('split-materials'), part }),
  z.object({ op: z.literal('split-faces'), faces, name: innerNameSchema.optional() }),
  z.object({
    op: z.literal('split-plane'),
    parts,
    point: vec3Schema,
    normal: vec3Schema,
    close: z.boolean(),
  }),
  z.object({ op: z.literal('weld'), parts, metres }),
  z.object({ op: z.literal('fill-holes'), parts, longest: metres.optional() }),
  z.object({
    op: z.literal('remove-faces'),
    parts,
    which: z.array(z.enum(['doubled', 'hidden', 'zero-area', 'specks', 'unused'])).min(1),
  }),
  z.object({ op: z.literal('delete-faces'), faces }),
  z.object({ op: z.literal('face-outward'), parts }),
  z.object({ op: z.literal('flip'), parts: parts.optional(), faces: faces.optional() }),
  z.object({ op: z.literal('vertices'), parts, to: z.enum(['separate', 'share']) }),
  z.object({
    op: z.literal('normals'),
    parts,
    degrees: z.number().min(0).max(180),
    /** sides (3 * face + corner) that are hard or smooth whatever their angle */
    sides: z.object({ part, sides: z.instanceof(Uint32Array), as: z.enum(['hard', 'smooth']) }).optional(),
  }),
  z.object({
    op: z.literal('reduce'),
    parts,
    share: z.number().min(0).max(1).optional(),
    metres: metres.optional(),
  }),
  z.object({ op: z.literal('merge-materials'), from: z.array(z.number().int()), to: z.number().int() }),
  z.object({ op: z.literal('order-materials'), order: z.array(z.number().int()) }),
  z.object({
    op: z.literal('assign-material'),
    material: z.number().int(),
    parts: parts.optional(),
    faces: faces.optional(),
  }),
  z.object({ op: z.literal('project-uvs'), parts, metresPerPicture: metres }),
  z.object({ op: z.literal('bake'), parts, keepPosition: z.boolean(), keepRotation: z.boolean() }),
]);
export type Operation = z.infer<typeof operationSchema>;
export type OperationOf<Op extends Operation['op']> = Extract<Operation, { op: Op }>;
export type OutcomeOf<Op extends Outcome['op']> = Extract<Outcome, { op: Op }>;
export type FacesOfPart = z.infer<typeof facesOfPart>;

/** Something that cannot be done as asked, with a sentence for the person. */
export class ReshapeError extends Error {
  override readonly name = 'ReshapeError';
}
