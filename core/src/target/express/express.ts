import { composeMatrix } from '../../math/index.js';
import { joinMeshes, type Mesh, plainMesh, transformMesh } from '../../mesh/index.js';
import { plainMaterial, plainNode, type Scene } from '../../piece/index.js';
import { shapeTriangles } from '../../shape/index.js';
import type { Plan, PlannedFile, PlannedNode, PlannedShape } from '../plan.js';
import { artScene, type Sources } from './art-scene.js';
import { addColliders } from './colliders.js';

export interface ExpressedFile {
  /** its name, without an extension */
  stem: string;
  scene: Scene;
}

/**
 * A planned file in the target's own terms: how it tells collision from art, as nodes, names, files or colliders. Still
 * in metres, Y up, right-handed.
 */
export function express(plan: Plan, file: PlannedFile, sources: Sources): ExpressedFile[] {
  const scene = artScene(plan, file, sources);
  const { collision } = plan.profile;
  switch (collision.by) {
    case 'name-prefix':
    case 'name-suffix':
      addSolids(plan, file, scene, collision.place === 'below');
      return [{ stem: file.stem, scene }];
    case 'child-node': {
      const shapes = file.nodes.some((node) => node.shapes.length);
      const slot = shapes
        ? scene.materials.push({
            ...plainMaterial(collision.slot.name + collision.slot.undrawn),
            alpha: 'blend',
            baseColor: [1, 1, 1, 0],
          }) - 1
        : -1;
      addSolids(plan, file, scene, true, slot);
      return [{ stem: file.stem, scene }];
    }
    case 'second-file': {
      const together = collisionScene(plan, file, `${file.stem}${collision.suffix}`);
      return [{ stem: file.stem, scene }, ...(together ? [together] : [])];
    }
    case 'gltf-extension':
    case 'usd-schema':
      addColliders(plan, file, scene);
      return [{ stem: file.stem, scene }];
  }
}

/** A shape as triangles; round ones with the sides that the profile says. */
export const solidMesh = ({ profile }: Pick<Plan, 'profile'>, shapes: readonly PlannedShape[]): Mesh => {
  const meshes = shapes.map(({ shape }) => {
    const { points, indices } = shapeTriangles(shape, { segments: profile.kinds.sides });
    return plainMesh(points, indices);
  });
  return meshes.length === 1 ? meshes[0]! : joinMeshes(meshes);
};

/** A node with a mesh for each name of the shapes, below its owner or beside it in the same place. */
function addSolids(plan: Plan, file: PlannedFile, scene: Scene, below: boolean, material = -1): void {
  file.nodes.forEach((owner, i) => {
    for (const [name, shapes] of byName(owner)) {
      const mesh = solidMesh(plan, shapes);
      const groups = mesh.groups.map((group) => ({ ...group, material }));
      const number = scene.meshes.push({ name, mesh: { ...mesh, groups } }) - 1;
      scene.nodes.push(
        below
          ? plainNode(name, number, i)
          : {
              ...plainNode(name, number, owner.parent),
              translation: owner.position,
              rotation: owner.rotation,
            },
      );
    }
  });
}

function byName({ shapes }: PlannedNode): Map<string, PlannedShape[]> {
  const named = new Map<string, PlannedShape[]>();
  for (const shape of shapes) named.set(shape.name, [...(named.get(shape.name) ?? []), shape]);
  return named;
}

/** Everything that collides as one mesh, where the owners stand; null when nothing does. */
function collisionScene(plan: Plan, { nodes }: PlannedFile, stem: string): ExpressedFile | null {
  const meshes = nodes.flatMap((node) =>
    node.shapes.length ? [standing(solidMesh(plan, node.shapes), node)] : [],
  );
  if (!meshes.length) return null;
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [plainNode(stem, 0)],
    meshes: [{ name: stem, mesh: meshes.length === 1 ? meshes[0]! : joinMeshes(meshes) }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  return { stem, scene };
}

const standing = (mesh: Mesh, { world }: PlannedNode): Mesh =>
  transformMesh(
    mesh,
    composeMatrix({ translation: world.position, rotation: world.rotation, scale: [1, 1, 1] }),
  );
