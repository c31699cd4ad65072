import * as z from 'zod';
import { vec3Schema, quatSchema } from '../math/schemas.js';
import { NO_ROTATION, type Quat } from '../math/index.js';

const cell = z.union([z.literal(-1), z.literal(0), z.literal(1)]);

/** By what the place of a pivot was chosen. */
export const PIVOT_ANCHORS = [
  'as-it-came',
  'base-centre',
  'centre',
  'bounds',
  'lowest-contact',
  'centroid',
  'origin',
  'numeric',
  'vertex',
  'edge',
  'face',
  'selection',
  'hinge',
  'family',
] as const;
export const pivotAnchorSchema = z.enum(PIVOT_ANCHORS);
export type PivotAnchor = z.infer<typeof pivotAnchorSchema>;

/** A hinge or an axle: the line through the pivot that a part turns about. */
export const hingeSchema = z.object({
  /** unit length, in the piece's space */
  axis: vec3Schema,
  /** how far it opens, in degrees, from as it stands */
  opens: z.tuple([z.number(), z.number()]).default([0, 90]),
  /** for what slides along the axis instead of turning about it, a drawer or a sash: metres, from as it stands */
  slides: z.tuple([z.number(), z.number()]).optional(),
});

/** Where something is grabbed and turned. Metres and axes are the piece's. */
export const pivotSchema = z.object({
  anchor: pivotAnchorSchema,
  position: vec3Schema,
  /** its own axes, seen from the piece's */
  rotation: quatSchema.default([...NO_ROTATION] as Quat),
  /** the point of the bounds, for the anchor "bounds" */
  cell: z.tuple([cell, cell, cell]).optional(),
  hinge: hingeSchema.optional(),
  /** nothing moves it until it is unlocked */
  locked: z.boolean().default(false),
  /** the part whose pivot this one keeps in step with */
  follows: z.string().max(40).optional(),
});
export type Pivot = z.infer<typeof pivotSchema>;

export const pivotAt = (anchor: PivotAnchor, position: Pivot['position']): Pivot => ({
  anchor,
  position,
  rotation: [...NO_ROTATION] as Quat,
  locked: false,
});
