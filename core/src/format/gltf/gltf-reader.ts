import {
  type Document,
  type JSONDocument,
  Logger,
  type Material as GltfMaterial,
  type Texture,
  type TextureInfo,
  Verbosity,
  WebIO,
} from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer';
import type { Transform, Vec3 } from '../../math/index.js';
import { asTransforms } from '../as-transforms.js';
import { type Material, plainMaterial, type PictureSlot, type Scene, type Wrap } from '../../piece/index.js';
import { FormatError, shown } from '../format-error.js';
import { findBeside, type InputFile, pictureType } from '../input-file.js';
import { checkGltf, checkRanges, type GltfJson } from './check-gltf.js';
import { openGlb, parseJson } from './container.js';
import { dracoDecoder } from './draco.js';
import { readPrimitives } from './read-primitives.js';
import { checkPhysics, type GltfPhysics, readPhysics } from './physics-reader.js';
import { PHYSICS_EXTENSIONS } from './physics-writer.js';
import { infosOf, materialUvs, uvSetOf } from './texture-transform.js';

const EXTENSIONS = [
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
  ...PHYSICS_EXTENSIONS,
];
const KNOWN: readonly string[] = EXTENSIONS.map((extension) => extension.EXTENSION_NAME);
const AGAIN = 'mend the file or export it again';

/**
 * Reads glTF 2.0, as GLB or as JSON with its files beside it. Containers, references and byte ranges are
 * checked first, so that what is wrong is named by its number in the file; decoding is left to the library.
 *
 * @throws FormatError and nothing else
 */
export async function readGltf(file: InputFile, beside: readonly InputFile[] = []): Promise<Scene> {
  const bytes = await file.bytes();
  const { json, binary } = looksLikeGlb(file, bytes)
    ? openGlb(file.name, bytes)
    : { json: parseJson(file.name, bytes), binary: undefined };
  const gltf = checkGltf(file.name, json);
  const physics = checkPhysics(file.name, gltf);
  const unknown = gltf.extensionsRequired?.find((name) => !KNOWN.includes(name));
  if (unknown)
    throw new FormatError(
      file.name,
      `it cannot be read without the extension ${shown(unknown, 40)}`,
      'export it without that extension',
    );
  const resources = await gatherResources(file.name, gltf, binary, beside);
  try {
    // What it has to say is said here, in sentences for people.
    const io = new WebIO().setLogger(new Logger(Verbosity.SILENT)).registerExtensions(EXTENSIONS);
    if (gltf.extensionsUsed?.includes(EXTMeshoptCompression.EXTENSION_NAME)) {
      await MeshoptDecoder.ready;
      io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
    }
    if (gltf.extensionsUsed?.includes(KHRDracoMeshCompression.EXTENSION_NAME))
      io.registerDependencies({ 'draco3d.decoder': await dracoDecoder() });
    const document = await io.readJSON({ json: gltf, resources } as unknown as JSONDocument);
    return sceneFrom(file.name, gltf, document, physics);
  } catch (error) {
    if (error instanceof FormatError) throw error;
    throw new FormatError(file.name, 'a part of the glTF cannot be decoded', AGAIN);
  }
}

const looksLikeGlb = (file: InputFile, bytes: Uint8Array) =>
  /\.glb$/i.test(file.name) ||
  (bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46);

async function gatherResources(
  file: string,
  gltf: GltfJson,
  binary: Uint8Array | undefined,
  beside: readonly InputFile[],
): Promise<Record<string, Uint8Array>> {
  const resources: Record<string, Uint8Array> = {};
  const fetchBeside = async (uri: string, part: string, what: string): Promise<number> => {
    const inline = /^data:[^,]*;base64,/.exec(uri);
    if (inline) {
      resources[uri] = decodeBase64(file, uri.slice(inline[0].length), part);
      return resources[uri].length;
    }
    const found = uri.startsWith('data:') ? undefined : findBeside(beside, decodeUri(uri));
    if (!found)
      throw new FormatError(
        file,
        `${what} “${shown(uri, 60)}” is not among the files`,
        'drop it together with the glTF, or export as GLB',
        { part },
      );
    resources[uri] = await found.bytes();
    return resources[uri].length;
  };
  const lengths: number[] = [];
  for (const [i, buffer] of (gltf.buffers ?? []).entries()) {
    if (buffer.uri !== undefined) lengths.push(await fetchBeside(buffer.uri, `buffer ${i}`, 'buffer'));
    else if (i === 0 && binary) {
      resources['@glb.bin'] = binary.byteOffset % 4 ? binary.slice() : binary;
      lengths.push(binary.length);
    } else if (isFallback(buffer)) lengths.push(buffer.byteLength);
    else
      throw new FormatError(file, 'the buffer has no bytes in the file and no address', AGAIN, {
        part: `buffer ${i}`,
      });
  }
  checkRanges(file, gltf, lengths);
  for (const [i, image] of (gltf.images ?? []).entries()) {
    if (image.uri === undefined) continue;
    const inline = image.uri.startsWith('data:');
    if (inline || findBeside(beside, decodeUri(image.uri)))
      await fetchBeside(image.uri, `image ${i}`, 'picture');
    else resources[image.uri] = new Uint8Array();
  }
  return resources;
}

/** A buffer without bytes, for readers that know the compression: its views say where the compressed ones are. */
const isFallback = ({ extensions }: NonNullable<GltfJson['buffers']>[number]): boolean =>
  typeof extensions === 'object' && extensions !== null && EXTMeshoptCompression.EXTENSION_NAME in extensions;

function decodeUri(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}

function decodeBase64(file: string, text: string, part: string): Uint8Array {
  try {
    const binary = atob(text);
    return Uint8Array.from(binary, (character) => character.charCodeAt(0));
  } catch {
    throw new FormatError(file, 'its base64 data cannot be decoded', AGAIN, { part });
  }
}

function sceneFrom(file: string, gltf: GltfJson, document: Document, physics: GltfPhysics | null): Scene {
  const root = document.getRoot();
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [],
    meshes: [],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const materials = root.listMaterials();
  const textures = root.listTextures();
  const pictureNumbers = readPictures(textures, scene);
  scene.materials = materials.map((material, i) => readMaterial(material, i, textures, pictureNumbers));
  const materialNumbers = new Map<GltfMaterial | null, number>(materials.map((material, i) => [material, i]));
  const accessors = root.listAccessors();
  const uvs = new Map(materials.map((material) => [material, materialUvs(infosOf(material))]));
  for (const [material, { disagree }] of uvs)
    if (disagree) scene.notes.push({ about: 'uv-transforms', material: shown(material.getName(), 60) });
  const meshes = root.listMeshes().map((mesh) =>
    readPrimitives(mesh, {
      file,
      accessorNumber: (accessor) => accessors.indexOf(accessor),
      uvTransforms: (primitive) => uvs.get(primitive.getMaterial()!)?.transforms ?? new Map(),
      materialNumber: (primitive) => materialNumbers.get(primitive.getMaterial()) ?? -1,
      leftOut: scene.leftOut,
      notes: scene.notes,
    }),
  );
  const meshNumbers = new Map<number, number>();
  meshes.forEach((mesh, i) => {
    if (!mesh) return;
    meshNumbers.set(i, scene.meshes.length);
    scene.meshes.push({ name: gltf.meshes![i]!.name ?? '', mesh });
  });
  const nodeNumbers = readNodes(gltf, document, meshNumbers, scene);
  if (physics)
    readPhysics(
      gltf,
      physics,
      scene,
      (node) => nodeNumbers.get(node),
      (mesh) => meshNumbers.get(mesh),
    );
  listLeftOut(gltf, scene);
  if (!scene.nodes.some((node) => node.mesh !== null)) {
    throw new FormatError(file, 'its scene shows no triangles', 'export the mesh with its faces');
  }
  return scene;
}

/** Nodes of the default scene, parents first, and their numbers there. The tree was found to be one before. */
function readNodes(
  gltf: GltfJson,
  document: Document,
  meshNumbers: Map<number, number>,
  scene: Scene,
): Map<number, number> {
  const numbers = new Map<number, number>();
  const nodes = document.getRoot().listNodes();
  const hasParent = new Set((gltf.nodes ?? []).flatMap((node) => node.children ?? []));
  const shownScene = gltf.scenes?.[gltf.scene ?? 0];
  const roots = shownScene?.nodes ?? nodes.flatMap((_, i) => (hasParent.has(i) ? [] : [i]));
  const waiting = roots.map((node) => ({ node, parent: null as number | null })).reverse();
  const visited = new Set<number>();
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node, parent } = next;
    if (visited.has(node)) continue;
    visited.add(node);
    const source = gltf.nodes![node]!;
    const transform = nodes[node]!;
    const name = source.name ?? `node ${node}`;
    const trs: Transform[] = source.matrix
      ? asTransforms(Float64Array.from(source.matrix))
      : [
          {
            translation: [...transform.getTranslation()],
            rotation: [...transform.getRotation()],
            scale: [...transform.getScale()],
          },
        ];
    // A matrix that shears takes two nodes: turn and scale, then the turn that is left.
    let number = scene.nodes.push({ name, parent, mesh: null, ...trs[0]! }) - 1;
    if (trs[1])
      number = scene.nodes.push({ name: `${name} (sheared)`, parent: number, mesh: null, ...trs[1] }) - 1;
    numbers.set(node, number);
    scene.nodes[number]!.mesh = source.mesh === undefined ? null : (meshNumbers.get(source.mesh) ?? null);
    for (const child of [...(source.children ?? [])].reverse()) waiting.push({ node: child, parent: number });
    if (source.camera !== undefined)
      scene.leftOut.push({ kind: 'camera', name: source.name ?? `node ${node}` });
    if (
      source.extensions &&
      typeof source.extensions === 'object' &&
      'KHR_lights_punctual' in source.extensions
    ) {
      scene.leftOut.push({ kind: 'light', name: source.name ?? `node ${node}` });
    }
  }
  const outside = nodes.length - visited.size;
  if (outside > 0)
    scene.leftOut.push({
      kind: 'scene',
      name: `${outside} node${outside === 1 ? '' : 's'} outside the default scene`,
    });
  return numbers;
}

function listLeftOut(gltf: GltfJson, scene: Scene): void {
  gltf.animations?.forEach((animation, i) =>
    scene.leftOut.push({ kind: 'animation', name: animation.name ?? `animation ${i}` }),
  );
  gltf.skins?.forEach((skin, i) => scene.leftOut.push({ kind: 'skin', name: skin.name ?? `skin ${i}` }));
  for (const name of gltf.extensionsUsed ?? [])
    if (!KNOWN.includes(name) && name !== 'KHR_lights_punctual')
      scene.leftOut.push({ kind: 'extension', name });
}

function readPictures(textures: readonly Texture[], scene: Scene): Map<number, number> {
  const numbers = new Map<number, number>();
  textures.forEach((texture, i) => {
    const bytes = texture.getImage();
    const type = bytes && pictureType(bytes);
    const name = texture.getName() || texture.getURI().split('/').pop() || `picture-${i}`;
    if (!bytes || !type) {
      const why = bytes?.length ? 'unreadable' : 'missing';
      scene.notes.push({ about: 'picture', picture: shown(name, 80), material: null, why });
      return;
    }
    numbers.set(i, scene.pictures.length);
    scene.pictures.push({ name, type, bytes });
  });
  return numbers;
}

const WRAPS: Record<number, Wrap> = { 33071: 'clamp', 33648: 'mirror', 10497: 'repeat' };

function readMaterial(
  source: GltfMaterial,
  number: number,
  textures: readonly Texture[],
  pictureNumbers: Map<number, number>,
): Material {
  const material = plainMaterial(source.getName() || `material ${number}`);
  material.baseColor = [...source.getBaseColorFactor()];
  material.metalness = source.getMetallicFactor();
  material.roughness = source.getRoughnessFactor();
  const strength = source.getExtension<
    { getEmissiveStrength(): number } & import('@gltf-transform/core').ExtensionProperty
  >('KHR_materials_emissive_strength');
  material.emissive = source
    .getEmissiveFactor()
    .map((value) => value * (strength?.getEmissiveStrength() ?? 1)) as Vec3;
  material.doubleSided = source.getDoubleSided();
  material.alpha = source.getAlphaMode().toLowerCase() as Material['alpha'];
  material.alphaCutoff = source.getAlphaCutoff();
  material.normalScale = source.getNormalScale();
  material.occlusionStrength = source.getOcclusionStrength();
  const use = (slot: PictureSlot, texture: Texture | null, info: TextureInfo | null) => {
    const picture = texture && pictureNumbers.get(textures.indexOf(texture));
    if (picture === null || picture === undefined || !info) return;
    material.pictures[slot] = {
      picture,
      uvSet: uvSetOf(info),
      wrap: [WRAPS[info.getWrapS()]!, WRAPS[info.getWrapT()]!],
    };
  };
  use('baseColor', source.getBaseColorTexture(), source.getBaseColorTextureInfo());
  use('normal', source.getNormalTexture(), source.getNormalTextureInfo());
  use('metallicRoughness', source.getMetallicRoughnessTexture(), source.getMetallicRoughnessTextureInfo());
  use('occlusion', source.getOcclusionTexture(), source.getOcclusionTextureInfo());
  use('emissive', source.getEmissiveTexture(), source.getEmissiveTextureInfo());
  return material;
}
