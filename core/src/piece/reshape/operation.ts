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
const uvSet = z.number().int().min(0).max(7);
const degrees = z.number().min(0).max(180);
const boundsSchema = z.object({ min: vec3Schema, max: vec3Schema });
const plane = z.object({ point: vec3Schema, normal: vec3Schema });

/** Most copies of one repetition, and most stretches of one bend. */
export const MAX_COPIES = 1000;
export const MAX_DIVISIONS = 1000;

/** A straight module: where its line begins and runs, and between which places along it, in metres, it is changed. */
const module = z.object({ origin: vec3Schema, along: vec3Schema, from: z.number(), to: z.number() });
/** the end that stays where it is */
const held = z.enum(['from', 'to']).optional();

/** What can be done to the tree and its meshes. Lengths are metres and places are the piece's. */
export const operationSchema = z.discriminatedUnion('op', [
  z.object({ op: z.literal('reparent'), part, parent: part.nullable() }),
  z.object({ op: z.literal('group'), parts, name: innerNameSchema }),
  z.object({ op: z.literal('delete'), parts }),
  z.object({ op: z.literal('duplicate'), parts }),
  z.object({ op: z.literal('combine'), parts, name: innerNameSchema.optional() }),
  z.object({ op: z.literal('set-aside'), parts, aside: z.boolean() }),
  /**
   * parts with all below them, or alone, grown along axes and turned about a point, then shifted; none for the whole
   * piece
   */
  z.object({
    op: z.literal('move'),
    parts,
    by: vec3Schema,
    turn: quatSchema,
    about: vec3Schema,
    scale: vec3Schema.optional(),
    axes: quatSchema.optional(),
    alone: z.boolean().optional(),
  }),
  /**
   * nodes back where they were: each with its matrix in the piece, by columns, and the bounds that it had there; what
   * hangs below goes along
   */
  z.object({
    op: z.literal('put-back'),
    places: z
      .array(z.object({ part, matrix: z.array(z.number()).length(16), box: boundsSchema.optional() }))
      .min(1),
  }),
  z.object({ op: z.literal('mirror'), parts, plane, copy: z.boolean() }),
  z.object({
    op: z.literal('repeat'),
    parts,
    count: z.number().int().min(2).max(MAX_COPIES),
    step: vec3Schema,
    asOne: z.boolean(),
  }),
  z.object({
    op: z.literal('bend'),
    parts,
    module,
    degrees: z.number().min(-360).max(360),
    divisions: z.number().int().min(1).max(MAX_DIVISIONS),
    held,
  }),
  z.object({ op: z.literal('stretch'), parts, module, metres, held }),
  z.object({
    op: z.literal('lay-along'),
    parts,
    module,
    line: z.array(vec3Schema).min(2).max(MAX_DIVISIONS),
  }),
  z.object({ op: z.literal('trim'), parts, ...plane.shape, close: z.boolean() }),
  z.object({ op: z.literal('split-shells'), parts, smallest: z.number().nonnegative() }),
  z.object({ op: z.literal('split-materials'), parts }),
  z.object({ op: z.literal('split-faces'), faces, name: innerNameSchema.optional() }),
  z.object({ op: z.literal('split-plane'), parts, ...plane.shape, close: z.boolean() }),
  z.object({ op: z.literal('weld'), parts, metres }),
  /** with bores, a border inside another one is a hole in the face that closes that */
  z.object({
    op: z.literal('fill-holes'),
    parts,
    longest: metres.optional(),
    bores: z.boolean().optional(),
  }),
  z.object({ op: z.literal('join-borders'), parts }),
  z.object({
    op: z.literal('remove-faces'),
    parts,
    which: z.array(z.enum(['doubled', 'hidden', 'zero-area', 'specks', 'unused'])).min(1),
  }),
  z.object({ op: z.literal('delete-faces'), faces }),
  z.object({ op: z.literal('face-outward'), parts }),
  z.object({ op: z.literal('flip'), parts: parts.optional(), faces: faces.optional() }),
  z.object({ op: z.literal('vertices'), parts, to: z.enum(['separate', 'share']) }),
  z.object({ op: z.literal('normals'), parts, degrees }),
  /** edges on top of what is hard already: some sides, all above an angle, or where materials or UVs meet */
  z.object({
    op: z.literal('mark-edges'),
    as: z.enum(['hard', 'smooth']),
    /** sides (3 * face + corner) */
    edges: z.array(z.object({ part, sides: z.instanceof(Uint32Array) })).optional(),
    parts: parts.optional(),
    where: z.enum(['angle', 'materials', 'uvs', 'outline']).optional(),
    degrees: degrees.optional(),
    faces: faces.optional(),
  }),
  z.object({
    op: z.literal('reduce'),
    parts,
    share: z.number().min(0).max(1).optional(),
    metres: metres.optional(),
  }),
  z.object({ op: z.literal('merge-materials'), from: z.array(z.number().int()), to: z.number().int() }),
  z.object({ op: z.literal('add-material'), name: innerNameSchema.min(1).optional() }),
  z.object({ op: z.literal('remove-materials'), materials: z.array(z.number().int()).min(1) }),
  z.object({ op: z.literal('order-materials'), order: z.array(z.number().int()) }),
  z.object({
    op: z.literal('assign-material'),
    material: z.number().int(),
    parts: parts.optional(),
    faces: faces.optional(),
  }),
  z.object({
    op: z.literal('project-uvs'),
    parts,
    metresPerPicture: metres,
    by: z.enum(['box', 'planar', 'cylinder']).optional(),
    /** of the piece: looked along, or turned about. Default: up */
    axis: z.union([z.literal(0), z.literal(1), z.literal(2)]).optional(),
  }),
  /** picture widths a metre that a set comes to, on each part named */
  z.object({ op: z.literal('uv-density'), parts, set: uvSet, perMetre: metres }),
  /** the second set, without overlaps, for baked light */
  z.object({
    op: z.literal('unwrap'),
    parts,
    texelsPerMetre: metres,
    paddingTexels: z.number().int().min(0).max(64),
  }),
  z.object({ op: z.literal('remove-uvs'), parts, set: uvSet }),
  /** `except` keep their transforms, whatever is above them */
  z.object({
    op: z.literal('bake'),
    parts,
    except: parts.optional(),
    keepPosition: z.boolean(),
    keepRotation: z.boolean(),
  }),
]);
export type Operation = z.infer<typeof operationSchema>;
export type OperationOf<Op extends Operation['op']> = Extract<Operation, { op: Op }>;
export type OutcomeOf<Op extends Outcome['op']> = Extract<Outcome, { op: Op }>;
export type FacesOfPart = z.infer<typeof facesOfPart>;

/** Something that cannot be done as asked, with a sentence for the person. */
export class ReshapeError extends Error {
  override readonly name = 'ReshapeError';
}
