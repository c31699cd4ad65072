import { transformMesh } from '../mesh/index.js';
import { type Scene, worldMatrices } from '../piece/index.js';

/** Every node's mesh with the node's transform in its vertices. */
export function standing(scene: Scene) {
  const world = worldMatrices(scene.nodes);
  return scene.nodes.flatMap((node, i) =>
    node.mesh === null
      ? []
      : [{ name: node.name, mesh: transformMesh(scene.meshes[node.mesh]!.mesh, world[i]!) }],
  );
}
