import {
  type Material,
  type Mesh,
  plainMaterial,
  plainNode,
  type Scene,
  type SceneNode,
} from '@yard-brace/core';

type Part = [name: string, mesh: Mesh | null, change?: Partial<SceneNode>];

/** A scene of parts in their order, each mesh its own. */
export function sceneFrom(
  parts: readonly Part[],
  materials: Material[],
  pictures: Scene['pictures'] = [],
): Scene {
  const meshes: Scene['meshes'] = [];
  const nodes = parts.map(([name, mesh, change]) => ({
    ...plainNode(name, mesh ? meshes.push({ name, mesh }) - 1 : null),
    ...change,
  }));
  return { unit: { metres: 1, stated: true }, nodes, meshes, materials, pictures, leftOut: [], notes: [] };
}

export const material = (
  name: string,
  [r, g, b]: readonly [number, number, number],
  roughness = 0.85,
  metalness = 0,
): Material => ({ ...plainMaterial(name), baseColor: [r, g, b, 1], roughness, metalness });
