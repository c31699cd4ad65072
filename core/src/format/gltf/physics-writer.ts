import {
  type Document,
  Extension,
  type GLTF,
  type Mesh as GltfMesh,
  type Node as GltfNode,
  type WriterContext,
} from '@gltf-transform/core';
import type { Collider, ColliderShape, Scene } from '../../piece/index.js';

export const IMPLICIT_SHAPES = 'KHR_implicit_shapes';
export const RIGID_BODIES = 'KHR_physics_rigid_bodies';

export interface PhysicsOptions {
  /** the key that names a collider's mesh: drafts of the extension differ. Default 'mesh' */
  meshKey?: 'mesh' | 'node';
}

class ImplicitShapes extends Extension {
  static override readonly EXTENSION_NAME = IMPLICIT_SHAPES;
  override readonly extensionName = IMPLICIT_SHAPES;
  override read(): this {
    return this;
  }
  override write(): this {
    return this;
  }
}

/** Writes colliders, bodies and surfaces of contact into the JSON once nodes and meshes have their numbers. */
class RigidBodies extends Extension {
  static override readonly EXTENSION_NAME = RIGID_BODIES;
  override readonly extensionName = RIGID_BODIES;
  scene!: Scene;
  nodes!: readonly GltfNode[];
  /** the mesh of a collider, or the node that holds it where that is what is named */
  meshes!: ReadonlyMap<number, GltfMesh | GltfNode>;
  meshKey!: 'mesh' | 'node';

  override read(): this {
    return this;
  }

  override write(context: WriterContext): this {
    const { json } = context.jsonDoc;
    const shapes: unknown[] = [];
    const { colliders = [], bodies = [], surfaces = [] } = this.scene;
    for (const { node, geometry, surface } of colliders) {
      const said =
        geometry.kind === 'mesh'
          ? { [this.meshKey]: this.numberOf(geometry.mesh, context), convexHull: geometry.convex }
          : { shape: shapes.push(implicitShape(geometry)) - 1 };
      const collider = { geometry: said, ...(surface === undefined ? {} : { physicsMaterial: surface }) };
      extend(json.nodes![context.nodeIndexMap.get(this.nodes[node]!)!]!, RIGID_BODIES, { collider });
    }
    for (const { node, role, kilograms } of bodies) {
      const motion = {
        isKinematic: role === 'animated',
        ...(kilograms === undefined ? {} : { mass: kilograms }),
      };
      extend(json.nodes![context.nodeIndexMap.get(this.nodes[node]!)!]!, RIGID_BODIES, { motion });
    }
    if (shapes.length) extend(json, IMPLICIT_SHAPES, { shapes });
    extend(json, RIGID_BODIES, surfaces.length ? { physicsMaterials: surfaces.map(physicsMaterial) } : {});
    return this;
  }

  private numberOf(mesh: number, context: WriterContext): number {
    const named = this.meshes.get(mesh)!;
    return (
      this.meshKey === 'mesh'
        ? context.meshIndexMap.get(named as GltfMesh)
        : context.nodeIndexMap.get(named as GltfNode)
    )!;
  }
}

const physicsMaterial = ({
  name,
  friction,
  restitution,
  density,
}: NonNullable<Scene['surfaces']>[number]) => ({
  staticFriction: friction,
  dynamicFriction: friction,
  restitution,
  extras: { name, ...(density === undefined ? {} : { density }) },
});

type Extensible = { extensions?: Record<string, unknown> };

function extend(json: GLTF.IGLTF | GLTF.INode, name: string, value: object): void {
  const owner = json as Extensible;
  owner.extensions = { ...owner.extensions, [name]: { ...(owner.extensions?.[name] ?? {}), ...value } };
}

function implicitShape(shape: ColliderShape): unknown {
  switch (shape.kind) {
    case 'box':
      return { type: 'box', box: { size: shape.halfExtents.map((half) => half * 2) } };
    case 'sphere':
      return { type: 'sphere', sphere: { radius: shape.radius } };
    case 'capsule': {
      const { radius, halfLength } = shape;
      return {
        type: 'capsule',
        capsule: { height: halfLength * 2, radiusBottom: radius, radiusTop: radius },
      };
    }
    case 'cylinder': {
      const { halfHeight, bottomRadius, topRadius } = shape;
      return {
        type: 'cylinder',
        cylinder: { height: halfHeight * 2, radiusBottom: bottomRadius, radiusTop: topRadius },
      };
    }
  }
}

export const PHYSICS_EXTENSIONS = [ImplicitShapes, RigidBodies] as unknown as (typeof Extension)[];

/** Meshes that only colliders name, or nodes outside of the scene that hold them. */
export const colliderMeshes = ({ colliders = [] }: Scene): Set<number> =>
  new Set(colliders.flatMap(({ geometry }: Collider) => (geometry.kind === 'mesh' ? [geometry.mesh] : [])));

/** Give a glTF document what the scene says of contact and motion, when it says any. */
export function addPhysics(
  document: Document,
  scene: Scene,
  nodes: readonly GltfNode[],
  meshes: readonly GltfMesh[],
  { meshKey = 'mesh' }: PhysicsOptions,
): void {
  if (!scene.colliders?.length && !scene.bodies?.length) return;
  const named = new Map<number, GltfMesh | GltfNode>();
  for (const mesh of colliderMeshes(scene))
    named.set(
      mesh,
      meshKey === 'mesh'
        ? meshes[mesh]!
        : document.createNode(scene.meshes[mesh]!.name).setMesh(meshes[mesh]!),
    );
  document.createExtension(ImplicitShapes as never);
  const bodies = document.createExtension(RigidBodies as never) as unknown as RigidBodies;
  Object.assign(bodies, { scene, nodes, meshes: named, meshKey });
}
