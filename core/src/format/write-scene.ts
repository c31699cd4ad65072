import { type PictureSlot, PICTURE_SLOTS, type Scene } from '../piece/index.js';
import { writeCollada } from './collada/collada-writer.js';
import { writeGlb, writeGltf } from './gltf/gltf-writer.js';
import { writeObj } from './obj/obj-writer.js';
import { pictureFileNames } from './picture-file-names.js';
import type { PhysicsOptions } from './gltf/physics-writer.js';
import { OUR_SPACE, rightHanded, sceneInto, type Space } from './space.js';
import { writeUsda } from './usda/usda-writer.js';
import { writePly } from './ply/ply-writer.js';
import { writeStl } from './stl/stl-writer.js';

export const WRITTEN_FORMATS = ['obj', 'glb', 'gltf', 'dae', 'usda', 'stl', 'ply'] as const;
export type WrittenFormat = (typeof WRITTEN_FORMATS)[number];

/** Slots of a material whose pictures a format names. */
export const CARRIED_PICTURES: Readonly<Record<WrittenFormat, readonly PictureSlot[]>> = {
  obj: ['baseColor', 'normal', 'emissive'],
  glb: PICTURE_SLOTS,
  gltf: PICTURE_SLOTS,
  dae: ['baseColor', 'emissive'],
  usda: PICTURE_SLOTS,
  stl: [],
  ply: [],
};

export interface WriteOptions extends PhysicsOptions {
  /** what OBJ, COLLADA and USD are written in; glTF, STL and PLY stay in ours. Default: ours */
  space?: Space;
  /** from the model to its pictures, with a slash at its end. Default: they are in one folder */
  picturePath?: string;
}

/**
 * A scene in metres as the files of one format, the mesh file first, what belongs beside it after. COLLADA and USD are
 * right-handed by themselves: for a left-handed space its forward axis is mirrored, as its importers do.
 */
export async function writeScene(
  scene: Scene,
  format: WrittenFormat,
  stem: string,
  { space = OUR_SPACE, picturePath = '', ...physics }: WriteOptions = {},
): Promise<{ name: string; bytes: Uint8Array }[]> {
  const turned = rightHanded(space);
  const names = pictureFileNames(scene.pictures);
  const pictures = scene.pictures.map(({ bytes }, i) => ({ name: names[i]!, bytes }));
  switch (format) {
    case 'glb':
      return [{ name: `${stem}.glb`, bytes: await writeGlb(scene, physics) }];
    case 'gltf':
      return writeGltf(scene, stem, { ...physics, picturePath });
    case 'dae':
      return [
        { name: `${stem}.dae`, bytes: writeCollada(sceneInto(turned, scene), { ...turned, picturePath }) },
        ...pictures,
      ];
    case 'usda':
      return [
        { name: `${stem}.usda`, bytes: writeUsda(sceneInto(turned, scene), { ...turned, picturePath }) },
        ...pictures,
      ];
    case 'stl':
      return [{ name: `${stem}.stl`, bytes: writeStl(scene) }];
    case 'ply':
      return [{ name: `${stem}.ply`, bytes: writePly(scene) }];
    case 'obj': {
      const named = {
        ...sceneInto(space, scene),
        pictures: scene.pictures.map((picture, i) => ({
          ...picture,
          name: picturePath + names[i]!,
        })),
      };
      const { obj, mtl } = writeObj(named, `${stem}.mtl`, space);
      return [
        { name: `${stem}.obj`, bytes: obj },
        ...(mtl.length ? [{ name: `${stem}.mtl`, bytes: mtl }] : []),
        ...pictures,
      ];
    }
  }
}

/** What of a scene a format cannot carry, a phrase each; empty when all of it arrives. */
export function lostIn(format: WrittenFormat, { nodes, meshes, materials, pictures }: Scene): string[] {
  const lost: string[] = [];
  const say = (when: boolean, what: string) => when && lost.push(what);
  const flat = format === 'obj' || format === 'stl' || format === 'ply';
  const plain = format === 'stl' || format === 'ply';
  say(
    flat && nodes.some((node) => node.parent !== null || node.mesh === null),
    'the tree (parts stand where they stood)',
  );
  say(plain && nodes.filter((node) => node.mesh !== null).length > 1, 'the parts (they are one mesh)');
  say(plain && materials.length > 0, 'materials');
  say(plain && pictures.length > 0, 'pictures');
  say(format === 'stl' && meshes.some(({ mesh }) => mesh.normals), 'vertex normals');
  say(format === 'stl' && meshes.some(({ mesh }) => mesh.colors), 'vertex colours');
  say(format === 'stl' && meshes.some(({ mesh }) => mesh.uvs.length), 'UVs');
  say(flat && format !== 'stl' && meshes.some(({ mesh }) => mesh.uvs.length > 1), 'UV sets after the first');
  say(format !== 'glb' && format !== 'gltf' && meshes.some(({ mesh }) => mesh.tangents), 'tangents');
  say(
    format === 'obj' && meshes.some(({ mesh }) => mesh.colors?.some((c, i) => i % 4 === 3 && c !== 1)),
    'the alpha of vertex colours',
  );
  say(format === 'dae' && materials.some(({ metalness }) => metalness !== 0), 'metalness');
  const slots = materials.flatMap((material) => Object.keys(material.pictures) as PictureSlot[]);
  const gone = [...new Set(slots)].filter((slot) => !CARRIED_PICTURES[format].includes(slot));
  say(!plain && gone.length > 0, `pictures for ${gone.join(', ')}`);
  say(
    (format === 'glb' || format === 'gltf' || format === 'stl') &&
      meshes.some(({ mesh }) => mesh.positions.some((v) => v !== Math.fround(v))),
    'digits beyond single precision',
  );
  return lost;
}
