import { joinMeshes } from '../../mesh/index.js';
import type { Material, Picture, Scene } from '../../piece/index.js';

/**
 * Several scenes as one, nodes one after the other. Materials and pictures that are the same in all they hold stand
 * once. Scenes of one mesh each, all of one name, become one mesh.
 */
export function joinScenes(scenes: readonly Scene[]): Scene {
  const [first, ...others] = scenes;
  if (!first || !others.length) return first!;
  if (scenes.every(({ nodes }) => nodes.length === 1 && nodes[0]!.name === first.nodes[0]!.name))
    return {
      ...first,
      meshes: [
        { name: first.meshes[0]!.name, mesh: joinMeshes(scenes.map(({ meshes }) => meshes[0]!.mesh)) },
      ],
    };
  const whole: Scene = {
    ...first,
    nodes: [],
    meshes: [],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  if (scenes.some(({ colliders }) => colliders))
    Object.assign(whole, { colliders: [], bodies: [], surfaces: [] });
  for (const scene of scenes) append(whole, scene);
  return whole;
}

function append(whole: Scene, scene: Scene): void {
  const [nodes, meshes] = [whole.nodes.length, whole.meshes.length];
  const pictures = scene.pictures.map((picture) => placeOf(whole.pictures, picture, samePicture));
  const materials = scene.materials.map((material) =>
    placeOf(
      whole.materials,
      renumbered(material, pictures),
      (a, b) => JSON.stringify(a) === JSON.stringify(b),
    ),
  );
  const surfaces = (scene.surfaces ?? []).map((surface) => {
    const known = whole.surfaces!.findIndex(({ name }) => name === surface.name);
    return known >= 0 ? known : whole.surfaces!.push(surface) - 1;
  });
  for (const { name, mesh } of scene.meshes)
    whole.meshes.push({
      name,
      mesh: {
        ...mesh,
        groups: mesh.groups.map((group) => ({ ...group, material: materials[group.material] ?? -1 })),
      },
    });
  for (const node of scene.nodes)
    whole.nodes.push({
      ...node,
      parent: node.parent === null ? null : node.parent + nodes,
      mesh: node.mesh === null ? null : node.mesh + meshes,
    });
  for (const { node, geometry, surface } of scene.colliders ?? [])
    whole.colliders!.push({
      node: node + nodes,
      geometry: geometry.kind === 'mesh' ? { ...geometry, mesh: geometry.mesh + meshes } : geometry,
      ...(surface === undefined ? {} : { surface: surfaces[surface]! }),
    });
  for (const body of scene.bodies ?? []) whole.bodies!.push({ ...body, node: body.node + nodes });
}

/** Where something stands in a list: with what is the same, or at its end. */
function placeOf<Thing>(list: Thing[], thing: Thing, same: (a: Thing, b: Thing) => boolean): number {
  const known = list.findIndex((each) => same(each, thing));
  return known >= 0 ? known : list.push(thing) - 1;
}

const samePicture = (a: Picture, b: Picture): boolean =>
  a.name === b.name && a.bytes.length === b.bytes.length && a.bytes.every((byte, i) => byte === b.bytes[i]);

const renumbered = (material: Material, pictures: readonly number[]): Material => ({
  ...material,
  pictures: Object.fromEntries(
    Object.entries(material.pictures).map(([slot, use]) => [
      slot,
      { ...use, picture: pictures[use.picture]! },
    ]),
  ),
});
