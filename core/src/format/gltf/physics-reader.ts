import * as z from 'zod';
import type { Collider, ColliderShape, ContactSurface, Scene } from '../../piece/index.js';
import { issueDemand } from '../../piece/index.js';
import { FormatError, shown } from '../format-error.js';
import { IMPLICIT_SHAPES, RIGID_BODIES } from './physics-writer.js';
import type { GltfJson } from './check-gltf.js';

const AGAIN = 'mend the file or export it again';
const positive = z.number().positive();
const index = z.number().int().nonnegative();

const roundSchema = z.object({
  height: z.number().nonnegative().default(0.5),
  radiusBottom: z.number().nonnegative().default(0.25),
  radiusTop: z.number().nonnegative().default(0.25),
});
const shapeSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('box'),
    box: z
      .object({ size: z.tuple([positive, positive, positive]).default([1, 1, 1]) })
      .default({ size: [1, 1, 1] }),
  }),
  z.object({
    type: z.literal('sphere'),
    sphere: z.object({ radius: positive.default(0.5) }).default({ radius: 0.5 }),
  }),
  z.object({ type: z.literal('capsule'), capsule: roundSchema }),
  z.object({ type: z.literal('cylinder'), cylinder: roundSchema }),
]);
const shapesSchema = z.object({ shapes: z.array(shapeSchema) });

const materialsSchema = z.object({
  physicsMaterials: z
    .array(
      z.looseObject({
        dynamicFriction: z.number().nonnegative().default(0.6),
        restitution: z.number().min(0).max(1).default(0),
        extras: z
          .object({ name: z.string().max(120).optional(), density: positive.optional() })
          .optional()
          .catch(undefined),
      }),
    )
    .default([]),
});
const nodeSchema = z.object({
  motion: z.object({ isKinematic: z.boolean().default(false), mass: positive.optional() }).optional(),
  collider: z
    .object({
      geometry: z.object({
        shape: index.optional(),
        mesh: index.optional(),
        node: index.optional(),
        convexHull: z.boolean().default(false),
      }),
      physicsMaterial: index.optional(),
    })
    .optional(),
});

/** What a glTF says of contact and motion by the open physics extensions. */
export interface GltfPhysics {
  shapes: readonly z.infer<typeof shapeSchema>[];
  surfaces: ContactSurface[];
  nodes: ReadonlyMap<number, z.infer<typeof nodeSchema>>;
}

/** @throws FormatError that names the shape, surface or node */
export function checkPhysics(file: string, gltf: GltfJson): GltfPhysics | null {
  const root = (gltf as { extensions?: Record<string, unknown> }).extensions ?? {};
  if (!gltf.extensionsUsed?.includes(RIGID_BODIES) && !(RIGID_BODIES in root)) return null;
  const parse = <T extends z.ZodType>(schema: T, value: unknown, part: string): z.infer<T> => {
    const read = schema.safeParse(value);
    if (read.success) return read.data;
    const issue = read.error.issues[0]!;
    throw new FormatError(file, `${issue.path.join('.') || 'it'} ${issueDemand(issue)}`, AGAIN, { part });
  };
  const { shapes } =
    IMPLICIT_SHAPES in root ? parse(shapesSchema, root[IMPLICIT_SHAPES], IMPLICIT_SHAPES) : { shapes: [] };
  const { physicsMaterials } = parse(materialsSchema, root[RIGID_BODIES] ?? {}, RIGID_BODIES);
  const nodes = new Map<number, z.infer<typeof nodeSchema>>();
  gltf.nodes?.forEach(({ extensions }, i) => {
    const said = (extensions as Record<string, unknown> | undefined)?.[RIGID_BODIES];
    if (said === undefined) return;
    const node = parse(nodeSchema, said, `node ${i}`);
    const { shape, mesh, node: held } = node.collider?.geometry ?? {};
    const wrong = (what: string, n: number) =>
      new FormatError(file, `its collider names ${what} ${n}, which is not there`, AGAIN, {
        part: `node ${i}`,
      });
    if (shape !== undefined && !shapes[shape]) throw wrong('shape', shape);
    if (mesh !== undefined && !gltf.meshes?.[mesh]) throw wrong('mesh', mesh);
    if (held !== undefined && !gltf.nodes?.[held]) throw wrong('node', held);
    const { physicsMaterial } = node.collider ?? {};
    if (physicsMaterial !== undefined && !physicsMaterials[physicsMaterial])
      throw wrong('surface', physicsMaterial);
    nodes.set(i, node);
  });
  const surfaces = physicsMaterials.map(({ dynamicFriction, restitution, extras }, i) => ({
    name: shown(extras?.name ?? `surface ${i + 1}`, 120),
    friction: dynamicFriction,
    restitution,
    ...(extras?.density === undefined ? {} : { density: extras.density }),
  }));
  return { shapes, surfaces, nodes };
}

/**
 * Give a scene what its nodes say of contact and motion.
 *
 * @param nodeNumber of a glTF node in the scene, undefined for one outside of it
 * @param meshNumber of a glTF mesh in the scene
 */
export function readPhysics(
  gltf: GltfJson,
  physics: GltfPhysics,
  scene: Scene,
  nodeNumber: (node: number) => number | undefined,
  meshNumber: (mesh: number) => number | undefined,
): void {
  const colliders: Collider[] = [];
  scene.bodies = [];
  for (const [number, { motion, collider }] of physics.nodes) {
    const node = nodeNumber(number);
    if (node === undefined) continue;
    if (motion)
      scene.bodies.push({
        node,
        role: motion.isKinematic ? 'animated' : 'simulated',
        ...(motion.mass === undefined ? {} : { kilograms: motion.mass }),
      });
    if (!collider) continue;
    const { shape, mesh, node: held, convexHull } = collider.geometry;
    const meshOf = mesh ?? (held === undefined ? undefined : gltf.nodes![held]!.mesh);
    const found = meshOf === undefined ? undefined : meshNumber(meshOf);
    const geometry =
      shape !== undefined
        ? colliderShape(physics.shapes[shape]!)
        : found === undefined
          ? null
          : { kind: 'mesh' as const, mesh: found, convex: convexHull };
    if (!geometry) continue;
    const surface = collider.physicsMaterial;
    colliders.push({ node, geometry, ...(surface === undefined ? {} : { surface }) });
  }
  scene.colliders = colliders;
  scene.surfaces = physics.surfaces;
}

/** A capsule that tapers has no kind of ours: the wider of its radii is taken. */
function colliderShape(shape: z.infer<typeof shapeSchema>): ColliderShape | null {
  switch (shape.type) {
    case 'box':
      return { kind: 'box', halfExtents: shape.box.size.map((v) => v / 2) as [number, number, number] };
    case 'sphere':
      return { kind: 'sphere', radius: shape.sphere.radius };
    case 'capsule': {
      const { height, radiusBottom, radiusTop } = shape.capsule;
      const radius = Math.max(radiusBottom, radiusTop);
      return radius > 0 ? { kind: 'capsule', halfLength: height / 2, radius } : null;
    }
    case 'cylinder': {
      const { height, radiusBottom, radiusTop } = shape.cylinder;
      const least = Math.max(radiusBottom, radiusTop) * 1e-3;
      if (!(least > 0) || !(height > 0)) return null;
      return {
        kind: 'cylinder',
        halfHeight: height / 2,
        bottomRadius: Math.max(radiusBottom, least),
        topRadius: Math.max(radiusTop, least),
      };
    }
  }
}
