import {
  composeMatrix,
  decomposeMatrix,
  type Matrix,
  invertMatrix,
  multiplyMatrices,
} from '../math/index.js';
import { transformMesh } from '../mesh/index.js';
import { plainNode, type Scene, worldMatrices } from '../piece/index.js';
import type { Manifest } from './manifest.js';

/** A delivery whose files do not hold what its manifest says, with a sentence. */
export class PutTogetherError extends Error {
  override readonly name = 'PutTogetherError';
}

/**
 * The whole piece again from what was delivered of it: every mesh where it sat before it was moved onto its pivot.
 *
 * @param models the model files of the delivery by their names, each in metres
 * @throws PutTogetherError when a file or a mesh of the manifest is missing
 */
export function putTogether(manifest: Manifest, models: ReadonlyMap<string, Scene>): Scene {
  const whole: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [],
    meshes: [],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const first = new Map<Scene, number>();
  for (const { name, file, position, rotation } of manifest.meshes) {
    const scene = models.get(file);
    if (!scene)
      throw new PutTogetherError(
        `${file} is not among the files; the manifest says that it holds “${name}”.`,
      );
    const at = scene.nodes.findIndex((node) => node.name === name && node.mesh !== null);
    if (at < 0)
      throw new PutTogetherError(`${file} holds no mesh “${name}”; it is not the file of this manifest.`);
    const mesh = transformMesh(
      scene.meshes[scene.nodes[at]!.mesh!]!.mesh,
      multiplyMatrices(
        composeMatrix({ translation: position, rotation, scale: [1, 1, 1] }),
        ownScaleOf(worldMatrices(scene.nodes)[at]!),
      ),
    );
    // Materials of several files stand one after the other.
    if (!first.has(scene)) {
      first.set(scene, whole.materials.length);
      const pictures = whole.pictures.length;
      whole.pictures.push(...scene.pictures);
      whole.materials.push(
        ...scene.materials.map((material) => ({
          ...material,
          pictures: Object.fromEntries(
            Object.entries(material.pictures).map(([slot, use]) => [
              slot,
              { ...use, picture: use.picture + pictures },
            ]),
          ),
        })),
      );
    }
    const from = first.get(scene)!;
    const groups = mesh.groups.map((group) => ({
      ...group,
      material: group.material < 0 ? -1 : group.material + from,
    }));
    whole.nodes.push(plainNode(name, whole.meshes.push({ name, mesh: { ...mesh, groups } }) - 1));
  }
  return whole;
}

/** What a node does to its mesh beside standing somewhere and being turned: nothing, in a file of ours. */
function ownScaleOf(world: Matrix): Matrix {
  const { translation, rotation } = decomposeMatrix(world);
  return multiplyMatrices(invertMatrix(composeMatrix({ translation, rotation, scale: [1, 1, 1] }))!, world);
}
