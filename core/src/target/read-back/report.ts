import * as z from 'zod';
import { SHAPE_KINDS } from '../../shape/index.js';
import { vec3Schema } from '../../math/schemas.js';

/** What an importer makes of delivered bytes. Lengths are metres, Y up, from each mesh's own pivot. */
export const readBackSchema = z.object({
  target: z.string(),
  meshes: z.array(
    z.object({
      name: z.string(),
      triangles: z.number(),
      min: vec3Schema,
      max: vec3Schema,
      /** where the node stands in the file */
      position: vec3Schema,
      scale: vec3Schema,
      rotated: z.boolean(),
      /** the box an importer makes up when no shape arrives */
      madeUpBox: z.boolean(),
    }),
  ),
  shapes: z.array(
    z.object({
      name: z.string(),
      owner: z.string(),
      kind: z.enum(SHAPE_KINDS),
      volume: z.number(),
      corners: z.number(),
      min: vec3Schema,
      max: vec3Schema,
      /** cubic metres that the importer filled in */
      filled: z.number(),
      /** metres by which a reduced hull falls short */
      cutBack: z.number(),
    }),
  ),
  ignored: z.array(z.object({ name: z.string(), why: z.string() })),
  changed: z.array(z.object({ name: z.string(), how: z.string() })),
});

export type ReadBack = z.infer<typeof readBackSchema>;

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
