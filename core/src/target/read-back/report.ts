import * as z from 'zod';
import { quatSchema, vec3Schema } from '../../math/schemas.js';
import { SHAPE_KINDS } from '../../shape/index.js';

const role = z.enum(['static', 'animated', 'simulated']);
const still = [0, 0, 0, 1] as [number, number, number, number];

/** What an importer makes of delivered bytes. Lengths are metres, Y up, right-handed, from each file's origin. */
export const readBackSchema = z.object({
  target: z.string(),
  /** models that were read; their names without an extension */
  files: z.array(z.string()).default([]),
  /** nodes without a mesh that something hangs below */
  groups: z.array(z.object({ name: z.string(), parent: z.string().nullable() })).default([]),
  meshes: z.array(
    z.object({
      name: z.string(),
      parent: z.string().nullable().default(null),
      triangles: z.number(),
      /** seen from its own pivot */
      min: vec3Schema,
      max: vec3Schema,
      /** where the node stands in the file */
      position: vec3Schema,
      rotation: quatSchema.default(still),
      scale: vec3Schema,
      /** a rotation is left on a root node */
      rotated: z.boolean(),
      /** the box an importer makes up when no shape arrives */
      madeUpBox: z.boolean(),
      /** material names in the order of their slots */
      slots: z.array(z.string()).default([]),
      uvSets: z.number().default(0),
      pictures: z
        .object({ found: z.number(), missing: z.array(z.string()) })
        .default({ found: 0, missing: [] }),
    }),
  ),
  shapes: z.array(
    z.object({
      name: z.string(),
      owner: z.string(),
      kind: z.enum(SHAPE_KINDS),
      volume: z.number(),
      /** square metres of a surface */
      area: z.number().default(0),
      /** the volume between a surface and the middle of its bounds, signed by its faces */
      facing: z.number().default(0),
      corners: z.number(),
      min: vec3Schema,
      max: vec3Schema,
      /** cubic metres that the importer filled in */
      filled: z.number(),
      /** metres by which a reduced hull falls short */
      cutBack: z.number(),
      surface: z.string().nullable().default(null),
      /** [3n] and [3t] as the importer has it, from the origin of the file; absent where that would be too much to keep */
      triangles: z.object({ points: z.array(z.number()), indices: z.array(z.number()) }).optional(),
    }),
  ),
  bodies: z.array(z.object({ name: z.string(), role, kilograms: z.number().nullable() })).default([]),
  ignored: z.array(z.object({ name: z.string(), why: z.string() })),
  changed: z.array(z.object({ name: z.string(), how: z.string() })),
});

export type ReadBack = z.infer<typeof readBackSchema>;
export type ReadShape = ReadBack['shapes'][number];

export const comparisonSchema = z.array(
  z.object({
    point: z.string(),
    expected: z.string(),
    found: z.string(),
    agrees: z.boolean(),
    /** it differs, in the way that was announced: the target knows no such kind */
    substituted: z.boolean().optional(),
  }),
);

/** Expected and found, point by point. */
export type Comparison = z.infer<typeof comparisonSchema>;
