import * as z from 'zod';
import { vec3Schema } from '../math/schemas.js';

const placement = z.string().max(40);
const shape = z.string().max(40);
const metres = z.number();

/**
 * Something about pieces that stand together. Computed from the set-out and its pieces, never stored. Lengths in
 * metres, placements by their ids.
 */
export const setFaultSchema = z.discriminatedUnion('kind', [
  /** vertices that should meet do not: `gap` above zero is open, below zero overlaps */
  z.object({
    kind: z.literal('seam'),
    a: placement,
    b: placement,
    gap: metres,
    pairs: z.number(),
    unmatched: z.number(),
    at: vec3Schema,
    /** what the second has to be moved by to meet the first */
    shift: vec3Schema,
    sideways: z.boolean(),
  }),
  /** the art of the smaller, `b`, goes into that of the other; `shift` takes it out again where it is deepest */
  z.object({
    kind: z.literal('art-crosses'),
    a: placement,
    b: placement,
    metres,
    at: vec3Schema,
    shift: vec3Schema,
  }),
  z.object({
    kind: z.literal('shapes-cross'),
    a: placement,
    b: placement,
    metres,
    at: vec3Schema,
    shapes: z.tuple([shape, shape]),
  }),
  /** shapes leave a gap where the art meets: `dip` is how far who walks over it sinks in */
  z.object({
    kind: z.literal('shapes-gap'),
    a: placement,
    b: placement,
    metres,
    dip: metres,
    at: vec3Schema,
    shapes: z.tuple([shape, shape]),
  }),
  z.object({ kind: z.literal('floats'), a: placement, on: placement.nullable(), metres, at: vec3Schema }),
  z.object({ kind: z.literal('sinks'), a: placement, on: placement.nullable(), metres, at: vec3Schema }),
  /** an opening of one piece is not free any more, by another */
  z.object({
    kind: z.literal('blocked'),
    a: placement,
    b: placement,
    opening: z.string(),
    agent: z.string(),
    metres,
    at: vec3Schema,
  }),
  /** a piece is the mirror image of one that has shapes, and has none itself */
  z.object({
    kind: z.literal('mirror-forgotten'),
    a: placement,
    piece: z.number(),
    of: z.number(),
    shapes: z.number(),
    at: vec3Schema,
  }),
  /** instances of scale −1, whose hulls some engines turn inside out */
  z.object({
    kind: z.literal('mirrored'),
    a: placement,
    piece: z.number(),
    count: z.number(),
    at: vec3Schema,
  }),
  z.object({
    kind: z.literal('no-shapes'),
    a: placement,
    piece: z.number(),
    count: z.number(),
    at: vec3Schema,
  }),
  /** the piece is no longer in the yard, or the version that stands there is not kept any more */
  z.object({
    kind: z.literal('removed'),
    a: placement,
    piece: z.number(),
    version: z.number().nullable(),
    at: vec3Schema,
  }),
]);
export type SetFault = z.infer<typeof setFaultSchema>;
export type SetFaultOf<K extends SetFault['kind']> = Extract<SetFault, { kind: K }>;

/** What was found of a set. */
export const setCheckSchema = z.object({
  faults: z.array(setFaultSchema),
  /** pairs of pieces that stand next to each other, and those whose ends meet */
  pairs: z.number(),
  meeting: z.number(),
});
export type SetCheck = z.infer<typeof setCheckSchema>;

/** The same for the same fault of the same placements, whatever its figures. */
export const faultId = (fault: SetFault): string =>
  [
    fault.kind,
    fault.a,
    ...('b' in fault ? [fault.b] : []),
    ...('opening' in fault ? [fault.opening] : []),
  ].join(' ');
