import * as z from 'zod';
import type { Vec3 } from '../math/index.js';

/**
 * The proxy kinds. Shapes are exact where they can be: a box is a centre, half extents and a
 * rotation, and becomes triangles only for drawing and for targets that need them.
 * Lengths are metres; the axis of capsule and cylinder is their own Y.
 */
const finite = z.number();
const positive = z.number().positive();
const vec3 = z.tuple([finite, finite, finite]);
const quat = z.tuple([finite, finite, finite, finite]);
const index = z.number().int().nonnegative();

export const boxSchema = z.object({
  kind: z.literal('box'),
  center: vec3,
  halfExtents: z.tuple([positive, positive, positive]),
  rotation: quat,
});

export const sphereSchema = z.object({ kind: z.literal('sphere'), center: vec3, radius: positive });

export const capsuleSchema = z.object({
  kind: z.literal('capsule'),
  center: vec3,
  rotation: quat,
  /** half the distance between the centres of its caps */
  halfLength: z.number().nonnegative(),
  radius: positive,
});

export const cylinderSchema = z.object({
  kind: z.literal('cylinder'),
  center: vec3,
  rotation: quat,
  halfHeight: positive,
  /** different radii make it taper */
  bottomRadius: positive,
  topRadius: positive,
});

export const hullSchema = z.object({
  kind: z.literal('hull'),
  /** [3n] */
  points: z.array(finite).min(12),
  /** polygons, counter-clockwise seen from outside */
  faces: z.array(z.array(index).min(3)).min(4),
});

export const surfaceSchema = z.object({
  kind: z.literal('surface'),
  /** [3n] */
  points: z.array(finite),
  /** [3t] */
  indices: z.array(index),
});

export const shapeSchema = z.discriminatedUnion('kind', [
  boxSchema,
  sphereSchema,
  capsuleSchema,
  cylinderSchema,
  hullSchema,
  surfaceSchema,
]);

export type Shape = z.infer<typeof shapeSchema>;
export type BoxShape = z.infer<typeof boxSchema>;
export type SphereShape = z.infer<typeof sphereSchema>;
export type CapsuleShape = z.infer<typeof capsuleSchema>;
export type CylinderShape = z.infer<typeof cylinderSchema>;
export type HullShape = z.infer<typeof hullSchema>;
export type SurfaceShape = z.infer<typeof surfaceSchema>;
export type ShapeKind = Shape['kind'];
export const SHAPE_KINDS = [
  'box',
  'sphere',
  'capsule',
  'cylinder',
  'hull',
  'surface',
] as const satisfies readonly ShapeKind[];

/** No solid is thinner than this many metres: importers refuse flat shapes. */
export const MIN_THICKNESS_METRES = 0.001;

/** Half extents with none below half the least thickness. */
export const thickened = (half: Readonly<Vec3>): Vec3 => [
  Math.max(half[0], MIN_THICKNESS_METRES / 2),
  Math.max(half[1], MIN_THICKNESS_METRES / 2),
  Math.max(half[2], MIN_THICKNESS_METRES / 2),
];
