import {
  type Accessor,
  type Buffer,
  Document,
  type Material as GltfMaterial,
  type Mesh as GltfMesh,
  type Texture,
  type TextureInfo,
  VertexLayout,
  WebIO,
} from '@gltf-transform/core';
import { KHRMaterialsEmissiveStrength } from '@gltf-transform/extensions';
import { type Mesh, takeFaces } from '../../mesh/index.js';
import type { Material, PictureSlot, PictureUse, Scene, Wrap } from '../../piece/index.js';

import { addPhysics, PHYSICS_EXTENSIONS, type PhysicsOptions } from './physics-writer.js';
import { pictureFileNames } from '../picture-file-names.js';

const WRAPS: Record<Wrap, 33071 | 33648 | 10497> = { clamp: 33071, mirror: 33648, repeat: 10497 };
export const GENERATOR = 'Yard Brace';

/** A scene in metres as GLB: nodes as they stand, a primitive a surface group, pictures inside the file. */
export const writeGlb = async (scene: Scene, options: PhysicsOptions = {}): Promise<Uint8Array> =>
  io().writeBinary(documentFrom(scene, options));

/**
 * A scene in metres as glTF: the JSON, its buffer and its pictures as files side by side.
 *
 * @param picturePath from the JSON to the pictures, with a slash at its end. Default: they are in one folder
 */
export async function writeGltf(
  scene: Scene,
  stem: string,
  { picturePath = '', ...options }: PhysicsOptions & { picturePath?: string } = {},
): Promise<{ name: string; bytes: Uint8Array }[]> {
  const document = documentFrom(scene, options);
  const root = document.getRoot();
  for (const buffer of root.listBuffers()) buffer.setURI(encodeURIComponent(`${stem}.bin`));
  const names = pictureFileNames(scene.pictures);
  root
    .listTextures()
    .forEach((texture, i) => texture.setURI(encodeURI(picturePath) + encodeURIComponent(names[i]!)));
  const { json, resources } = await io().writeJSON(document);
  return [
    { name: `${stem}.gltf`, bytes: new TextEncoder().encode(`${JSON.stringify(json)}\n`) },
    ...Object.entries(resources).map(([name, bytes]) => ({
      name: decodeURIComponent(name.slice(name.lastIndexOf('/') + 1)),
      bytes,
    })),
  ];
}

const io = () =>
  new WebIO()
    .registerExtensions([KHRMaterialsEmissiveStrength, ...PHYSICS_EXTENSIONS])
    .setVertexLayout(VertexLayout.SEPARATE);

function documentFrom(scene: Scene, options: PhysicsOptions): Document {
  const document = new Document();
  const root = document.getRoot();
  root.getAsset().generator = GENERATOR;
  const buffer = document.createBuffer();
  const textures = scene.pictures.map(({ name, type, bytes }) =>
    document
      .createTexture(name)
      .setImage(bytes as Uint8Array<ArrayBuffer>)
      .setMimeType(type),
  );
  const materials = scene.materials.map((material) => writeMaterial(document, material, textures));
  const meshes = scene.meshes.map(({ name, mesh }) => writeMesh(document, buffer, name, mesh, materials));
  const nodes = scene.nodes.map((node) =>
    document
      .createNode(node.name)
      .setTranslation(node.translation)
      .setRotation(node.rotation)
      .setScale(node.scale)
      .setMesh(node.mesh === null ? null : meshes[node.mesh]!),
  );
  const gltfScene = document.createScene('Scene');
  scene.nodes.forEach((node, i) =>
    (node.parent === null ? gltfScene : nodes[node.parent]!).addChild(nodes[i]!),
  );
  root.setDefaultScene(gltfScene);
  addPhysics(document, scene, nodes, meshes, options);
  return document;
}

function writeMesh(
  document: Document,
  buffer: Buffer,
  name: string,
  mesh: Mesh,
  materials: readonly GltfMaterial[],
): GltfMesh {
  const out = document.createMesh(name);
  const groups = mesh.groups.filter((group) => group.count > 0);
  for (const group of groups) {
    const part = groups.length === 1 ? mesh : takeFaces({ ...mesh, groups: [group] }, () => true);
    const accessor = (
      type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4',
      array: Float32Array | Uint32Array | Uint16Array,
    ): Accessor =>
      document
        .createAccessor()
        .setType(type)
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', Float32Array.from(part.positions)))
      .setIndices(
        accessor(
          'SCALAR',
          part.positions.length / 3 <= 65535 ? Uint16Array.from(part.indices) : part.indices,
        ),
      );
    if (part.normals) primitive.setAttribute('NORMAL', accessor('VEC3', part.normals));
    if (part.normals && part.tangents) primitive.setAttribute('TANGENT', accessor('VEC4', part.tangents));
    if (part.colors) primitive.setAttribute('COLOR_0', accessor('VEC4', part.colors));
    part.uvs.forEach((uv, set) => primitive.setAttribute(`TEXCOORD_${set}`, accessor('VEC2', uv)));
    if (group.material >= 0) primitive.setMaterial(materials[group.material]!);
    out.addPrimitive(primitive);
  }
  return out;
}

function writeMaterial(document: Document, material: Material, textures: readonly Texture[]): GltfMaterial {
  const strength = Math.max(1, ...material.emissive);
  const out = document
    .createMaterial(material.name)
    .setBaseColorFactor(material.baseColor)
    .setMetallicFactor(material.metalness)
    .setRoughnessFactor(material.roughness)
    .setEmissiveFactor(material.emissive.map((value) => value / strength) as typeof material.emissive)
    .setDoubleSided(material.doubleSided)
    .setAlphaMode(material.alpha.toUpperCase() as 'OPAQUE' | 'MASK' | 'BLEND')
    .setAlphaCutoff(material.alphaCutoff)
    .setNormalScale(material.normalScale)
    .setOcclusionStrength(material.occlusionStrength);
  if (strength > 1) {
    const extension = document.createExtension(KHRMaterialsEmissiveStrength);
    out.setExtension(
      'KHR_materials_emissive_strength',
      extension.createEmissiveStrength().setEmissiveStrength(strength),
    );
  }
  const put = (slot: PictureSlot, set: (texture: Texture) => unknown, info: () => TextureInfo | null) => {
    const use: PictureUse | undefined = material.pictures[slot];
    if (!use) return;
    set(textures[use.picture]!);
    info()?.setTexCoord(use.uvSet).setWrapS(WRAPS[use.wrap[0]]).setWrapT(WRAPS[use.wrap[1]]);
  };
  put(
    'baseColor',
    (t) => out.setBaseColorTexture(t),
    () => out.getBaseColorTextureInfo(),
  );
  put(
    'normal',
    (t) => out.setNormalTexture(t),
    () => out.getNormalTextureInfo(),
  );
  put(
    'metallicRoughness',
    (t) => out.setMetallicRoughnessTexture(t),
    () => out.getMetallicRoughnessTextureInfo(),
  );
  put(
    'occlusion',
    (t) => out.setOcclusionTexture(t),
    () => out.getOcclusionTextureInfo(),
  );
  put(
    'emissive',
    (t) => out.setEmissiveTexture(t),
    () => out.getEmissiveTextureInfo(),
  );
  return out;
}
