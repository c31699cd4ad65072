import {
  composeMatrix,
  decomposeMatrix,
  type Matrix,
  multiplyMatrices,
  placeOf,
  placeText,
  type Quat,
  type Vec3,
} from '../../math/index.js';
import { type Mesh, transformMesh } from '../../mesh/index.js';
import { type Scene, type SceneNode, worldMatrices } from '../../piece/index.js';
import type { ReadBack } from './report.js';

/** A node of a delivered file, with where all above it put it. */
export interface PlacedNode extends SceneNode {
  /** number in the scene */
  number: number;
  world: Matrix;
  parentName: string | null;
}

export function placedNodes(scene: Scene): PlacedNode[] {
  const world = worldMatrices(scene.nodes);
  return scene.nodes.map((node, number) => ({
    ...node,
    number,
    world: world[number]!,
    parentName: node.parent === null ? null : scene.nodes[node.parent]!.name,
  }));
}

/** The mesh where its node stands. */
export const standingMesh = (scene: Scene, { mesh, world }: PlacedNode): Mesh =>
  transformMesh(scene.meshes[mesh!]!.mesh, world);

/** The mesh as its own pivot sees it: without the place and the turn of its node, with all scale. */
export function ownMesh(scene: Scene, { mesh, world }: PlacedNode): Mesh {
  const { translation, rotation } = decomposeMatrix(world);
  const back: Quat = [-rotation[0], -rotation[1], -rotation[2], rotation[3]];
  const unturned = composeMatrix({ translation: [0, 0, 0], rotation: back, scale: [1, 1, 1] });
  const moved = composeMatrix({
    translation: translation.map((v) => -v) as Vec3,
    rotation: [0, 0, 0, 1],
    scale: [1, 1, 1],
  });
  return transformMesh(scene.meshes[mesh!]!.mesh, multiplyMatrices(unturned, multiplyMatrices(moved, world)));
}

export const isTurned = ([, , , w]: Quat): boolean => Math.abs(Math.abs(w) - 1) > 1e-6;

/** Say what a node's own transform and those above it do that an importer keeps and a level may not want. */
export function reportTransform(node: PlacedNode, expectsTree: boolean, report: ReadBack): void {
  if (node.scale.some((s) => Math.abs(s - 1) > 1e-6))
    report.changed.push({
      name: node.name,
      how: `its node scale of ${node.scale.map((s) => s.toPrecision(3)).join(', ')} is kept`,
    });
  const { scale } = decomposeMatrix(node.world);
  const under = node.parent !== null && node.world.some((v, k) => Math.abs(v - localOf(node)[k]!) > 1e-6);
  const scaledAbove = scale.some((s, k) => Math.abs(s - node.scale[k]!) > 1e-6);
  if (under && (!expectsTree || scaledAbove))
    report.changed.push({
      name: node.name,
      how: `its parents move, rotate or scale it: it lands at ${placeText(placeOf(node.world))}`,
    });
  if (node.parent === null && isTurned(node.rotation))
    report.changed.push({ name: node.name, how: 'a rotation is left on its root node' });
}

const localOf = (node: PlacedNode): Matrix => composeMatrix(node);
